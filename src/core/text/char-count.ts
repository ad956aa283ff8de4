/** Length in characters (code points), as a writer counts. */
export function charCount(text: string): number {
  let count = text.length;
  for (let i = 0; i < text.length; i++) if ((text.charCodeAt(i) & 0xfc00) === 0xdc00) count--;
  return count;
}
