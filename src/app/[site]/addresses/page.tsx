import { randomUUID } from "node:crypto";
import type { Metadata } from "next";
import { Addresses } from "../../../ui/addresses/addresses";
import { addressesAsked } from "../../../ui/addresses/addresses-asked";
import { FirstAnswers } from "../../first-answers";

export const metadata: Metadata = { title: "Addresses" };

export default async function Page({ params }: { params: Promise<{ site: string }> }) {
  const opened = randomUUID();
  return (
    <FirstAnswers site={(await params).site} ask={(state) => addressesAsked(state, opened)}>
      <Addresses opened={opened} />
    </FirstAnswers>
  );
}
