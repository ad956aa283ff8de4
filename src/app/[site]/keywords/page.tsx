import { randomUUID } from "node:crypto";
import type { Metadata } from "next";
import { Keywords } from "../../../ui/keywords/keywords";
import { keywordsAsked } from "../../../ui/keywords/keywords-asked";
import { FirstAnswers, type SitePage } from "../../first-answers";

export const metadata: Metadata = { title: "Keywords" };

export default function Page(page: SitePage) {
  const opened = randomUUID();
  return (
    <FirstAnswers page={page} ask={(state) => keywordsAsked(state, opened)}>
      <Keywords opened={opened} />
    </FirstAnswers>
  );
}
