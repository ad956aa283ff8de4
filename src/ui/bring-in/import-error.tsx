/** Why a file cannot be read or imported. */
export function ImportError({ message }: { message: string }) {
  return (
    <p role="alert" className="mt-4 border-l-4 border-magenta bg-sheet px-4 py-3 text-magenta">
      {message}
    </p>
  );
}
