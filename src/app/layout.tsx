import "@fontsource-variable/archivo/wdth.css";
import "@fontsource-variable/sometype-mono/index.css";
import "@fontsource/arimo/400.css";
import "@fontsource/arimo/700.css";
import "@fontsource/roboto/400.css";
import "./symbols.css";
import "./globals.css";
import type { Metadata } from "next";
import { type ReactNode } from "react";

export const metadata: Metadata = {
  title: { default: "Nine Lines", template: "%s · Nine Lines" },
  description: "Design titles, descriptions and slugs for every page of a site",
};
export const dynamic = "force-dynamic";

export default function Layout({ children }: { children: ReactNode }) {
  return (
    <html lang="en">
      <body>{children}</body>
    </html>
  );
}
