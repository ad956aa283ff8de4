import { randomUUID } from "node:crypto";
import type { Metadata } from "next";
import { Keywords } from "../../../ui/keywords/keywords";
import { keywordsAsked } from "../../../ui/keywords/keywords-asked";
import { FirstAnswers } from "../../first-answers";

export const metadata: Metadata = { title: "Keywords" };

export default async function Page({ params }: { params: Promise<{ site: string }> }) {
  const opened = randomUUID();
  return (
    <FirstAnswers site={(await params).site} ask={(state) => keywordsAsked(state, opened)}>
      <Keywords opened={opened} />
    </FirstAnswers>
  );
}
