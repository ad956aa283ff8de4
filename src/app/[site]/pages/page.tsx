import type { Metadata } from "next";
import { Items } from "../../../ui/items/items";

export const metadata: Metadata = { title: "Pages" };

export default function Page() {
  return <Items />;
}
