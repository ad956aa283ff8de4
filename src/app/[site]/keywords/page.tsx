import type { Metadata } from "next";
import { Keywords } from "../../../ui/keywords/keywords";

export const metadata: Metadata = { title: "Keywords" };

export default function Page() {
  return <Keywords />;
}
