import { randomUUID } from "node:crypto";
import type { Metadata } from "next";
import { Addresses } from "../../../ui/addresses/addresses";
import { addressesAsked } from "../../../ui/addresses/addresses-asked";
import { FirstAnswers, type SitePage } from "../../first-answers";

export const metadata: Metadata = { title: "Addresses" };

export default function Page(page: SitePage) {
  const opened = randomUUID();
  return (
    <FirstAnswers page={page} ask={(state) => addressesAsked(state, opened)}>
      <Addresses opened={opened} />
    </FirstAnswers>
  );
}
