import type { Metadata } from "next";
import { Runs } from "../../../ui/runs/runs";

export const metadata: Metadata = { title: "Runs" };

export default function Page() {
  return <Runs />;
}
