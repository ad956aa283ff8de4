import type { NextConfig } from "next";

const config: NextConfig = {
  poweredByHeader: false,
  // Done by the server before the pages, for every answer alike.
  compress: false,
  reactStrictMode: true,
  serverExternalPackages: ["better-sqlite3"],
  devIndicators: false,
};

export default config;
