import type { Metadata } from "next";
import { Compare } from "../../../ui/compare/compare";

export const metadata: Metadata = { title: "Compare drafts" };

export default function Page() {
  return <Compare />;
}
