import type { Metadata } from "next";
import { Board } from "../../ui/board/board";
import { boardAsked } from "../../ui/board/board-asked";
import { FirstAnswers } from "../first-answers";

export const metadata: Metadata = { title: "Board" };

export default async function Page({ params }: { params: Promise<{ site: string }> }) {
  return (
    <FirstAnswers site={(await params).site} ask={boardAsked}>
      <Board />
    </FirstAnswers>
  );
}
