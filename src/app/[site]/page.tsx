import type { Metadata } from "next";
import { Board } from "../../ui/board/board";
import { boardAsked } from "../../ui/board/board-asked";
import { FirstAnswers, type SitePage } from "../first-answers";

export const metadata: Metadata = { title: "Board" };

export default function Page(page: SitePage) {
  return (
    <FirstAnswers page={page} ask={boardAsked}>
      <Board />
    </FirstAnswers>
  );
}
