import type { Metadata } from "next";
import { Items } from "../../../ui/items/items";

export const metadata: Metadata = { title: "Items" };

export default function Page() {
  return <Items />;
}
