import { PLAIN_ACTION } from "./actions";

/** What went wrong, in the server's words, with the next step beside it. */
export function Trouble({ message, onRetry }: { message: string; onRetry: () => void }) {
  return (
    <p role="alert" className="my-3 text-magenta">
      {message}{" "}
      <button type="button" className={PLAIN_ACTION} onClick={onRetry}>
        Try again
      </button>
    </p>
  );
}
