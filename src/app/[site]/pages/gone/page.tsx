import type { Metadata } from "next";
import { GonePages } from "../../../../ui/items/gone-pages";

export const metadata: Metadata = { title: "Gone pages" };

export default function Page() {
  return <GonePages />;
}
