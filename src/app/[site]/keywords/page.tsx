import type { Metadata } from "next";
import { Keywords } from "../../../ui/keywords/keywords";
import { keywordsAsked } from "../../../ui/keywords/keywords-asked";
import { FirstAnswers } from "../../first-answers";

export const metadata: Metadata = { title: "Keywords" };

export default async function Page({ params }: { params: Promise<{ site: string }> }) {
  return (
    <FirstAnswers site={(await params).site} ask={keywordsAsked}>
      <Keywords />
    </FirstAnswers>
  );
}
