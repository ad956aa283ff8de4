import type { Metadata } from "next";
import { Bench } from "../../../ui/bench/bench";
import { benchAsked } from "../../../ui/bench/bench-asked";
import { FirstAnswers, type SitePage } from "../../first-answers";

export const metadata: Metadata = { title: "Bench" };

export default function Page(page: SitePage) {
  return (
    <FirstAnswers page={page} ask={benchAsked} followsAddress>
      <Bench />
    </FirstAnswers>
  );
}
