import type { NextConfig } from "next";

const config: NextConfig = {
  poweredByHeader: false,
  // Done by the server before the pages, for every answer alike.
  compress: false,
  reactStrictMode: true,
  serverExternalPackages: ["better-sqlite3"],
  devIndicators: false,
  // `npm run check` looks at the types of everything; twice would only take longer.
  typescript: { ignoreBuildErrors: true },
};

export default config;
