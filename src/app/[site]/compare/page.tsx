import type { Metadata } from "next";
import { Compare } from "../../../ui/compare/compare";

export const metadata: Metadata = { title: "Compare versions" };

export default function Page() {
  return <Compare />;
}
