// Reads the shipped font files and writes src/core/measure/tables/*.json: advances, kerning classes, ligatures; and
// src/app/symbols.css, by which a browser takes the signs that those fonts lack from the same file as the tables do; and
// src/app/stand-ins.css, by which fonts of the machine take the room of the screens' fonts until those have come.
// Run `npm run fonts` after a font package changed. Runtime code only reads the tables.
import * as fontkit from "fontkit";
import { mkdirSync, readFileSync, writeFileSync } from "node:fs";
import { createRequire } from "node:module";
import { dirname, join } from "node:path";

const require = createRequire(import.meta.url);
const FONTS = [
  ["arimo", 400],
  ["arimo", 700],
  ["roboto", 400],
];
/** Arrows, mathematics, technical signs, shapes, dingbats: what titles are dressed up with. */
const SYMBOL_RANGES = [
  [0x2190, 0x23ff],
  [0x2460, 0x27bf],
  [0x2900, 0x2bff],
];
const LIGATURE_CANDIDATES = ["ffi", "ffl", "ff", "fi", "fl", "fj", "ft", "tt"];

const parseRanges = (css) =>
  css.split(",").map((r) => {
    const [a, b] = r.replace("U+", "").split("-");
    return [parseInt(a, 16), parseInt(b ?? a, 16)];
  });

for (const [family, weight] of FONTS) {
  const folder = dirname(require.resolve(`@fontsource/${family}/package.json`));
  const subsets = JSON.parse(readFileSync(join(folder, "unicode.json"), "utf8"));
  const owner = new Map(); // code point → subset; of two faces that cover a character, CSS takes the one declared last
  const fonts = new Map();
  for (const [subset, css] of Object.entries(subsets)) {
    const font = fontkit.openSync(join(folder, "files", `${family}-${subset}-${weight}-normal.woff2`));
    fonts.set(subset, font);
    const ranges = parseRanges(css);
    for (const code of font.characterSet) {
      if (code < 32 || (code >= 0x7f && code < 0xa0)) continue;
      if (ranges.some(([a, b]) => code >= a && code <= b)) owner.set(code, subset);
    }
  }
  const codes = [...owner.keys()].sort((a, b) => a - b);
  const advanceOf = (code) => {
    const font = fonts.get(owner.get(code));
    return Math.round(font.layout(String.fromCodePoint(code)).advanceWidth);
  };
  // A glyph is a character or a ligature of the Latin face; ligatures come after the characters.
  const glyphs = codes.map((code) => ({
    text: String.fromCodePoint(code),
    subset: owner.get(code),
    advance: advanceOf(code),
  }));
  for (const text of LIGATURE_CANDIDATES) {
    const run = fonts.get("latin").layout(text);
    if (run.glyphs.length === 1) glyphs.push({ text, subset: "latin", advance: Math.round(run.advanceWidth) });
  }
  const ligatures = glyphs.slice(codes.length).map((g) => g.text);
  const advances = glyphs.map((g) => g.advance);
  const kern = glyphs.map(() => new Map());
  for (const [subset, font] of fonts) {
    if (!font.GPOS || !font.availableFeatures.includes("kern")) continue;
    const own = glyphs.flatMap((g, i) => (g.subset === subset ? [i] : []));
    for (const a of own) {
      for (const b of own) {
        const run = font.layout(glyphs[a].text + glyphs[b].text);
        if (run.glyphs.length !== 2) continue;
        const value = Math.round(run.advanceWidth) - advances[a] - advances[b];
        if (value !== 0) kern[a].set(b, value);
      }
    }
  }
  // Characters with equal rows share a left class, with equal columns a right class; class 0 kerns with nothing.
  const classesBy = (signature) => {
    const ids = new Map([["", 0]]);
    return [
      glyphs.map((_, i) => {
        const key = signature(i);
        if (!ids.has(key)) ids.set(key, ids.size);
        return ids.get(key);
      }),
      ids.size,
    ];
  };
  const columns = glyphs.map(() => new Map());
  kern.forEach((row, a) => row.forEach((v, b) => columns[b].set(a, v)));
  const [left, leftCount] = classesBy((i) => [...kern[i]].map(String).join(" "));
  const [right, rightCount] = classesBy((i) => [...columns[i]].map(String).join(" "));
  const matrix = new Array(leftCount * rightCount).fill(0);
  kern.forEach((row, a) => row.forEach((v, b) => (matrix[left[a] * rightCount + right[b]] = v)));
  const table = {
    unitsPerEm: fonts.get("latin").unitsPerEm,
    chars: String.fromCodePoint(...codes),
    advances,
    left,
    right,
    rightCount,
    kern: matrix,
    ligatures,
  };
  const out = new URL(`../src/core/measure/tables/${family}-${weight}.json`, import.meta.url);
  mkdirSync(new URL(".", out), { recursive: true });
  writeFileSync(out, JSON.stringify(table) + "\n");
  console.log(
    `${family} ${weight}: ${codes.length} characters, ${leftCount}×${rightCount} kerning classes, ligatures ${ligatures.join(" ") || "none"}`,
  );
}

// Signs that a browser shows as pictures are left to whatever font has those.
const symbolFile = "files/dejavu-sans-latin-400-normal.woff2";
const symbolFont = fontkit.openSync(join(dirname(require.resolve("@fontsource/dejavu-sans/package.json")), symbolFile));
const symbols = symbolFont.characterSet
  .filter((code) => SYMBOL_RANGES.some(([from, to]) => code >= from && code <= to))
  .filter((code) => !/\p{Emoji_Presentation}/u.test(String.fromCodePoint(code)))
  .sort((a, b) => a - b);
const symbolTable = {
  unitsPerEm: symbolFont.unitsPerEm,
  chars: String.fromCodePoint(...symbols),
  advances: symbols.map((code) => Math.round(symbolFont.layout(String.fromCodePoint(code)).advanceWidth)),
};
writeFileSync(new URL("../src/core/measure/tables/symbols.json", import.meta.url), `${JSON.stringify(symbolTable)}\n`);
const ranges = [];
for (const code of symbols) {
  const last = ranges.at(-1);
  if (last && last[1] === code - 1) last[1] = code;
  else ranges.push([code, code]);
}
const hex = (code) => code.toString(16).toUpperCase();
const css = ranges.map(([from, to]) => (from === to ? `U+${hex(from)}` : `U+${hex(from)}-${hex(to)}`)).join(", ");
writeFileSync(
  new URL("../src/app/symbols.css", import.meta.url),
  `/* Made by \`npm run fonts\`. */
@font-face {
  font-family: "Symbols";
  font-display: swap;
  font-weight: 400 700;
  src: url("../../node_modules/@fontsource/dejavu-sans/${symbolFile}") format("woff2");
  unicode-range: ${css};
}
`,
);
console.log(`symbols: ${symbols.length} characters`);

// How wide words of the screens are in our fonts, as a share of what they are in the machine's, was read off Chromium;
// e2e/fonts.test.ts holds it against the fonts. Ascent and descent are the fonts' own; `size-adjust` scales them, too.
// A font of the machine is found by its full name or by its PostScript name.
const REGULAR = ["Arial", "ArialMT", "Liberation Sans", "LiberationSans"];
const BOLD = ["Arial Bold", "Arial-BoldMT", "Liberation Sans Bold", "LiberationSans-Bold"];
const MONO = ["Courier New", "CourierNewPSMT", "Liberation Mono", "LiberationMono"];
const STAND_INS = [
  {
    family: "Archivo",
    file: "@fontsource-variable/archivo/files/archivo-latin-wdth-normal.woff2",
    faces: [
      { local: REGULAR, weight: "100 549", stretch: "95% 125%", share: 98.6 },
      { local: BOLD, weight: "550 649", stretch: "95% 125%", share: 94.7 },
      { local: BOLD, weight: "650 900", stretch: "95% 125%", share: 97.9 },
      { local: REGULAR, weight: "100 549", stretch: "62% 94%", share: 88.3 },
      { local: BOLD, weight: "550 649", stretch: "62% 94%", share: 85.3 },
      { local: BOLD, weight: "650 900", stretch: "62% 94%", share: 88 },
    ],
  },
  {
    family: "Sometype Mono",
    file: "@fontsource-variable/sometype-mono/files/sometype-mono-latin-wght-normal.woff2",
    faces: [{ local: MONO, weight: "100 900", stretch: "100%", share: 96.65 }],
  },
];
const percent = (value) => `${Number(value.toFixed(2))}%`;
const standIns = STAND_INS.flatMap(({ family, file, faces }) => {
  const { ascent, descent, unitsPerEm } = fontkit.openSync(require.resolve(file));
  return faces.map(
    ({ local, weight, stretch, share }) => `@font-face {
  font-family: "${family} Stand-in";
  font-weight: ${weight};
  font-stretch: ${stretch};
  src: ${local.map((name) => `local("${name}")`).join(", ")};
  size-adjust: ${percent(share)};
  ascent-override: ${percent((10_000 * ascent) / unitsPerEm / share)};
  descent-override: ${percent((-10_000 * descent) / unitsPerEm / share)};
  line-gap-override: 0%;
  unicode-range: U+0000-00FF, U+2000-206F;
}
`,
  );
});
writeFileSync(
  new URL("../src/app/stand-ins.css", import.meta.url),
  `/* Made by \`npm run fonts\`. */\n${standIns.join("")}`,
);
console.log(`stand-ins: ${standIns.length} faces`);
