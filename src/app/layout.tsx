import "@fontsource-variable/archivo/wdth.css";
import "@fontsource-variable/sometype-mono/index.css";
import "@fontsource/arimo/400.css";
import "@fontsource/arimo/700.css";
import "@fontsource/roboto/400.css";
import "./stand-ins.css";
import "./symbols.css";
import "./globals.css";
import type { Metadata } from "next";
import { type ReactNode } from "react";
import { preload } from "react-dom";
import { AtWork } from "../ui/shell/at-work";

export const metadata: Metadata = {
  title: { default: "Nine Lines", template: "%s · Nine Lines" },
  description: "Design titles, descriptions and slugs for every page of a site",
};
export const dynamic = "force-dynamic";

/** The two fonts that every view is first drawn with; the others come as they are met. */
const FIRST_FONTS = [
  new URL("@fontsource-variable/archivo/files/archivo-latin-wdth-normal.woff2", import.meta.url),
  new URL("@fontsource/arimo/files/arimo-latin-400-normal.woff2", import.meta.url),
];

export default function Layout({ children }: { children: ReactNode }) {
  for (const { href } of FIRST_FONTS) preload(href, { as: "font", type: "font/woff2", crossOrigin: "anonymous" });
  return (
    <html lang="en">
      <body>
        {children}
        <AtWork />
      </body>
    </html>
  );
}
