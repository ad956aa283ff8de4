import type { Metadata } from "next";
import { Review } from "../../../ui/review/review";

export const metadata: Metadata = { title: "Review" };

export default function Page() {
  return <Review />;
}
