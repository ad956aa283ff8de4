import type { Metadata } from "next";
import { LinesFile } from "../../../ui/lines-file/lines-file";

export const metadata: Metadata = { title: "Lines file" };

export default function Page() {
  return <LinesFile />;
}
