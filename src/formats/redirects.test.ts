import fc from "fast-check";
import { expect, it } from "vitest";
import { normalPath } from "../core/addresses/path-form";
import { type Redirect } from "../core/addresses/redirect";
import { REDIRECT_FORMS } from "../core/addresses/redirect-forms";
import { readRedirects } from "./redirects-read";
import { writeRedirects } from "./redirects-write";

const read = async (text: string) => {
  const { redirects, refused } = await readRedirects([text]);
  return { redirects: redirects.map(({ redirect }) => redirect), refused };
};

it.each([
  ["/a /b", [["/a", "/b", 301]]],
  [
    "# moved\n/a   /b   302!\n\n/c 410\n",
    [
      ["/a", "/b", 302],
      ["/c", "", 410],
    ],
  ],
  ["# moved, in 2024; by hand\n\n/a /b\n", [["/a", "/b", 301]]],
  ["# of the shop\nfrom,to\n# old\n/a,/b\n", [["/a", "/b", 301]]],
  [
    "/a -> /b\n/c → /d",
    [
      ["/a", "/b", 301],
      ["/c", "/d", 301],
    ],
  ],
  ["/a\t/b\t308", [["/a", "/b", 308]]],
  ["Status;Target;Source\r\n301;/b;/a\r\n", [["/a", "/b", 301]]],
  [
    "old_url,new-url\nhttps://x.example/a,https://www.elsewhere.example/b",
    [["/a", "https://www.elsewhere.example/b", 301]],
  ],
  ['"from","to"\n"/a,b","/c"', [["/a,b", "/c", 301]]],
  ["/a,b /c", [["/a,b", "/c", 301]]],
  ['\ufeff{"source":"/a","destination":"/b","code":302}\n', [["/a", "/b", 302]]],
] as const)("reads %j", async (text, expected) => {
  const { redirects, refused } = await read(text);
  expect(redirects.map(({ from, to, status }) => [from, to, status])).toEqual(expected);
  expect(refused).toEqual([]);
});

it("reads the same however the text is cut into pieces", async () => {
  const text = 'from,to,status\n/a,/b,\n"/c\nd",/e,302\n/f,/g,308\n';
  const whole = await readRedirects([text]);
  await fc.assert(
    fc.asyncProperty(fc.array(fc.nat(text.length), { maxLength: 8 }), async (cuts) => {
      const at = [0, ...cuts.sort((a, b) => a - b), text.length];
      const pieces = at.slice(1).map((to, i) => text.slice(at[i], to));
      expect(await readRedirects(pieces)).toEqual(whole);
    }),
  );
});

it("gives each row that is none back with its line and why", async () => {
  const { redirects, refused } = await read("from,to,status\n/a,/b,301\nx,/b,301\n/c,/d,200\n/old/*,/new,301\n/e,,\n");
  expect(redirects).toHaveLength(1);
  expect(refused.map(({ line }) => line)).toEqual([3, 4, 5, 6]);
});

const segment = fc.constantFrom(
  "a",
  "*",
  ":name",
  "$1",
  "é",
  '"',
  ";",
  "{",
  "\n",
  "%0a",
  "%2F",
  " ",
  ",",
  "#",
  "\\",
  "'",
  "=x",
);
const path = fc
  .array(segment, { minLength: 1, maxLength: 4 })
  .map((parts) => normalPath(`/${parts.join("").replaceAll("#", "%23")}`));
const exact = fc.record({
  from: path,
  to: path,
  status: fc.constantFrom(301, 302, 307, 308) as fc.Arbitrary<Redirect["status"]>,
});
const set = fc.uniqueArray(exact, { maxLength: 6, selector: ({ from }) => from });
const prefix = fc.record({ from: path, to: path });

it("is read again as what it was, whatever the paths, in each form that can be", async () => {
  await fc.assert(
    fc.asyncProperty(set, prefix, fc.constantFrom("jsonl", "csv", "plain"), async (given, folder, form) => {
      const redirects: Redirect[] = [
        ...given.map((own) => ({ ...own, prefix: false })),
        { from: `${folder.from}/`, to: `${folder.to}/`, status: 301, prefix: true },
        { from: "/gone", to: "", status: 410, prefix: false },
      ];
      const { redirects: again, refused } = await read(
        [...writeRedirects(form as "csv", { redirects, keeps: [] })].join(""),
      );
      const spelled = ({ from, to, ...rest }: Redirect) => ({ ...rest, from: unescaped(from), to: unescaped(to) });
      expect(refused).toEqual([]);
      // Where a star means something there is no other way to write one than to escape it.
      const same = (one: Redirect) => (form === "jsonl" ? one : spelled(one));
      expect(new Set(again.map((one) => JSON.stringify(same(one))))).toEqual(
        new Set(redirects.map((one) => JSON.stringify(same(one)))),
      );
    }),
    { numRuns: 400 },
  );
});

function unescaped(text: string): string {
  return text.replaceAll("%2A", "*").replaceAll("%3A", ":");
}

it("says what the plain form cannot tell, and is read again all the same", async () => {
  const redirects: Redirect[] = [
    { from: "/index.php?p=1", to: "/b", status: 301, prefix: false },
    { from: "/a", to: "/b", status: 301, prefix: false },
  ];
  const written = [...writeRedirects("plain", { redirects, keeps: [] })].join("");
  expect(written).toContain("# Paths are not told by their query in this form; left out: /index.php?p=1 /b 301");
  expect(await read(written)).toEqual({ redirects: [redirects[1]], refused: [] });
});

it("has a line for each redirect in whatever form: nothing in a path breaks out of it", () => {
  fc.assert(
    fc.property(set, fc.constantFrom(...REDIRECT_FORMS), (given, form) => {
      const redirects = given.map((own) => ({ ...own, prefix: false }));
      const count = (of: readonly Redirect[]) =>
        [...writeRedirects(form, { redirects: of, keeps: [] })].join("").split(/\r\n|[\n\r\v\f\u0085\u2028\u2029]/)
          .length;
      const plain = redirects.map((own, i) => ({ ...own, from: `/plain/${i}`, to: `/to/${i}` }));
      // Lines that a dollar or an escaped slash asks for once are told apart from those of redirects.
      const extra =
        (form === "nginx" && redirects.some(({ to }) => to.includes("$")) ? 1 : 0) +
        (form === "apache" && redirects.some(({ from }) => from.includes("%2F")) ? 1 : 0);
      expect(count(redirects)).toBe(count(plain) + extra);
    }),
  );
});
