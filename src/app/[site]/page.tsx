import type { Metadata } from "next";
import { Board } from "../../ui/board/board";

export const metadata: Metadata = { title: "Board" };

export default function Page() {
  return <Board />;
}
