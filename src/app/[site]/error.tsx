"use client";
import { BrokenView } from "../../ui/shell/broken-view";

export default function ErrorPage({ error, reset }: { error: Error; reset: () => void }) {
  return <BrokenView error={error} onRetry={reset} />;
}
