import type { Metadata } from "next";
import { BringIn } from "../../../ui/bring-in/bring-in";

export const metadata: Metadata = { title: "Import" };

export default function Page() {
  return <BringIn />;
}
