import { SLUG_DEFAULTS } from "../core/slugs/options";
import { siteSchema } from "../core/design/schema";
import { type Rule, type Site } from "../core/design/design";
import { type Kind, type TextName } from "../core/design/kinds";
import { cutSlug, slugWords } from "../core/slugs/slug";
import { languageByTag } from "../core/text/language";
import { type ItemInput } from "../store/items";
import { type Random, seeded } from "./random";
import {
  AUTHORS,
  COLOURS,
  DEPARTMENTS,
  FEATURES,
  FINISHES,
  MATERIALS,
  POST_ANGLES,
  POST_SERIES,
  POST_SUBJECTS,
  SENTENCES,
  SERIES,
  type Ware,
} from "./vocabulary";
import { withOldFault } from "./old-faults";
import { capital } from "../core/text/capital";

export const DEMO_SITE: Site = siteSchema.parse({
  name: "Fennick & Dray",
  tagline: "Ships’ chandlers since 1871",
  sep: "–",
  baseUrl: "https://fennickdray.example",
  language: "en-GB",
  reserved: ["basket", "search", "account"],
  checks: { siteNameSearched: false, longTitle: 70, longDescription: 300 },
});

/** How many items of each kind the demo site has. */
export const DEMO_COUNTS = { product: 12_480, category: 420, post: 906 } as const;

/** The lines that the demo site begins with: a draft that is not kept yet. */
export const DEMO_LINES: Readonly<Record<Kind, Record<TextName, string>>> = {
  product: {
    title: "{name}[ in {finish} finish]^2[ – {category}]^1[ – {colour}]^apart[ – {sold_by}]^apart[ – {id}]^apart",
    description:
      "{intro:first}[ In {finish} finish.]^1[ {length} long.]^2[ Sold by the {sold_by}.][ Colour {colour}.]^apart[ No. {id}.]^apart Cut and sent from our loft the same day.",
    slug: "{name}[-{finish}]^1[-{colour}]^apart[-{length}]^apart[-{id}]^apart",
  },
  category: { title: "{name}[ – {count:plural(item, items)} in stock]^1", description: "", slug: "{name}" },
  post: { title: "{name}[ – {series}]", description: "{summary or intro:fit}", slug: "{name}" },
};

/** The rules that the demo site begins with; the fourth can never win, and says so. */
export const DEMO_RULES: Readonly<Record<Kind, readonly Rule[]>> = {
  product: [
    {
      id: "rope-by-the-metre",
      name: "Rope sold by the metre",
      when: {
        all: [
          { field: "sold_by", is: "metre" },
          { field: "category", "is under": "Rope and twine" },
        ],
      },
      title: "{name} by the metre[ – {category}]^1[ – {colour}]^apart[ – {id}]^apart",
    },
    {
      id: "brass-and-bronze",
      name: "Brass & bronze fittings",
      when: { field: "material", "is one of": ["brass", "bronze"] },
      title: "{name}[ in {finish} finish]^2[ – {category}]^1[ – {id}]^apart",
      description:
        "{intro:first}[ In {finish} finish.]^1[ {size} long.]^2[ No. {id}.]^apart Cast and finished by hand in our own foundry.",
    },
    {
      id: "clearance",
      name: "Clearance",
      when: { field: "price", "<": "20" },
      title: "{name}[ – {colour}]^2, {price:money(GBP)} while it lasts[ – {id}]^apart",
    },
    {
      id: "bronze-cleats",
      name: "Bronze cleats",
      when: {
        all: [
          { field: "material", is: "bronze" },
          { field: "category", contains: "cleats" },
        ],
      },
      title: "{name}[ in {finish} finish] – bronze cleats[ – {id}]^apart",
    },
  ],
  post: [
    {
      id: "ropework",
      name: "Ropework notes",
      when: { field: "series", is: "Ropework" },
      title: "{name}[ – knots and splices]^1",
    },
  ],
};

interface Leaf {
  readonly key: number;
  readonly name: string;
  readonly path: string;
  readonly trail: readonly string[];
  readonly noun: string;
  readonly form: string;
  readonly ware: Ware;
}

interface CategoryNode {
  readonly name: string;
  readonly path: string;
  readonly trail: readonly string[];
  readonly leaf: Leaf | null;
}

const ENGLISH = { options: SLUG_DEFAULTS, language: languageByTag("en") };

function slug(text: string): string {
  return slugWords(text, ENGLISH);
}

/** Every so many sorts stand on another shelf than their address says. */
const REHUNG_EVERY = 60;
const REHUNG_AT = 37;

/** Twelve departments, seven shelves in each, three or four sorts on a shelf: 420 categories. */
function categories(): CategoryNode[] {
  const nodes: CategoryNode[] = [];
  let key = 0;
  for (const department of DEPARTMENTS) {
    const top = `/${slug(department.name)}`;
    nodes.push({ name: department.name, path: top, trail: [department.name], leaf: null });
    department.shelves.forEach(([one, many], shelf) => {
      const shelfName = capital(many);
      const shelfPath = `${top}/${slug(many)}`;
      nodes.push({ name: shelfName, path: shelfPath, trail: [department.name, shelfName], leaf: null });
      const forms = department.forms.filter((form) => !one.startsWith(form)).slice(0, shelf === 6 ? 3 : 4);
      for (const form of forms) {
        const name = capital(`${form} ${many}`);
        // Some were put on another shelf of the shop, and kept the address that they had.
        const [, onto] = department.shelves[key % REHUNG_EVERY === REHUNG_AT ? (shelf + 1) % 7 : shelf]!;
        const trail = [department.name, capital(onto), name];
        nodes.push({
          name,
          path: `${shelfPath}/${slug(name)}`,
          trail,
          leaf: { key: key++, name, path: `/${slug(name)}`, trail, noun: one, form, ware: department.ware },
        });
      }
    });
  }
  return nodes;
}

/** A site's items, one after another: categories, posts, products. The same numbers and seed give the same items. */
export function* demoItems(options: { products?: number; seed?: number } = {}): Generator<ItemInput> {
  const random = seeded(options.seed ?? 1871);
  const nodes = categories();
  const leaves = nodes.flatMap((node) => (node.leaf ? [node.leaf] : []));
  const products = options.products ?? DEMO_COUNTS.product;
  for (const node of nodes) yield category(node, Math.max(1, Math.round(products / leaves.length)), leaves, random);
  for (let i = 0; i < DEMO_COUNTS.post; i++) yield withOldFault(i, post(i, random));
  for (let i = 0; i < products; i++)
    yield product(i, leaves[i % leaves.length]!, Math.floor(i / leaves.length), random);
}

function category(node: CategoryNode, perLeaf: number, leaves: readonly Leaf[], random: Random): ItemInput {
  const below = leaves.filter((leaf) => leaf.trail[node.trail.length - 1] === node.name).length;
  const title = random.chance(0.55)
    ? `${node.trail.join(" | ")} | Fennick & Dray Ships' Chandlers`
    : random.chance(0.1)
      ? ""
      : `${node.name} | Fennick & Dray`;
  return {
    key: `c${slug(node.path)}`,
    kind: "category",
    path: node.path,
    columns: {
      name: node.name,
      category: node.name,
      category_path: node.trail.join(" › "),
      keyword: random.chance(0.6) ? node.name.toLowerCase() : "",
      title,
      description: random.chance(0.7)
        ? ""
        : `${node.name} from Fennick & Dray, ships' chandlers since 1871. Free delivery over £50.`,
      slug: node.path.split("/").at(-1)!,
      count: String(below * perLeaf),
    },
    attributes: {},
    body: null,
    byHand: null,
  };
}

function paragraph(random: Random, words: number): string {
  const sentences: string[] = [];
  let count = 0;
  while (count < words) {
    const sentence = random.pick(SENTENCES);
    sentences.push(sentence);
    count += sentence.split(" ").length;
  }
  return sentences.join(" ");
}

function post(i: number, random: Random): ItemInput {
  const subject = POST_SUBJECTS[i % POST_SUBJECTS.length]!;
  const angle = POST_ANGLES[Math.floor(i / POST_SUBJECTS.length) % POST_ANGLES.length]!;
  const round = Math.floor(i / (POST_SUBJECTS.length * POST_ANGLES.length));
  let name = `${subject}: ${angle}${round > 0 ? `, part ${round + 1}` : ""}`;
  if (random.chance(0.02)) name = name.toUpperCase();
  const intro = `${random.pick(SENTENCES)} ${random.pick(SENTENCES)}`;
  const year = 2019 + (i % 8);
  const published = `${year}-${String(1 + random.below(12)).padStart(2, "0")}-${String(1 + random.below(28)).padStart(2, "0")}`;
  const keyword = random.chance(0.6) ? subject.replace(/’/g, "'").toLowerCase() : "";
  const series = random.pick(POST_SERIES);
  const faultySlug = random.chance(0.3)
    ? `${published}-${slug(name)}`
    : random.chance(0.15)
      ? slug(name).replaceAll("-", "_")
      : slug(name);
  const target = 300 + random.below(1200);
  const paragraphs: string[] = [intro];
  for (let words = 0; words < target; words += 90) paragraphs.push(paragraph(random, 85));
  const description = random.chance(0.3)
    ? ""
    : random.chance(0.5)
      ? paragraphs.join(" ").slice(0, 268)
      : `${intro} Read on in our ${series} notes.`;
  const byHand = random.chance(0.05);
  return {
    key: `p${i + 1}`,
    kind: "post",
    path: `/notes/${faultySlug}`,
    columns: {
      name,
      category: series,
      category_path: `Notes › ${series}`,
      keyword,
      title: byHand
        ? `${subject}, by hand and eye`
        : random.chance(0.04)
          ? ""
          : `${name} | ${series} | Notes | Fennick & Dray Ships' Chandlers`,
      description,
      slug: faultySlug,
      summary: random.chance(0.7)
        ? `${random.pick(SENTENCES)} ${capital(subject.toLowerCase())}, ${angle}. ${random.pick(SENTENCES)}`
        : "",
      intro,
      author: random.pick(AUTHORS),
      published,
      updated: published,
    },
    attributes: random.chance(0.8) ? { series } : {},
    body: paragraphs
      .map((p, n) => `<p>${p}</p>${n === 1 && i % 4 === 0 ? `\n<img src="/i/notes/${i + 1}.jpg" alt="">` : ""}`)
      .join("\n"),
    byHand: byHand ? ["title"] : null,
  };
}

const SIZES = [4, 6, 8, 10, 12, 16, 20, 24, 32, 40, 50, 63, 76, 100, 125, 150, 200, 230];
const LENGTHS = ["5 m", "10 m", "20 m", "30 m", "50 m", "100 m"];
const VOLUMES = ["375 ml", "750 ml", "1 l", "2.5 l", "5 l"];
const GARMENT_SIZES = ["XS", "S", "M", "L", "XL", "XXL"];

interface Variant {
  readonly words: string;
  readonly attributes: Record<string, string>;
}

/** What tells the products of one sort apart. Finish and colour are often not in the name: they share it. */
function variant(ware: Ware, n: number, random: Random): Variant {
  const material = random.pick(MATERIALS[ware]);
  const colour = COLOURS[n % COLOURS.length]!;
  const finish = FINISHES[n % FINISHES.length]!;
  switch (ware) {
    case "rope": {
      const size = `${SIZES[n % 9]!} mm`;
      const soldBy = random.chance(0.6) ? "metre" : "coil";
      return {
        words: size,
        attributes: {
          material,
          colour,
          diameter: size,
          sold_by: soldBy,
          ...(soldBy === "coil" ? { length: random.pick(LENGTHS) } : {}),
        },
      };
    }
    case "paint":
      return {
        words: random.chance(0.5) ? `${random.pick(VOLUMES)}` : "",
        attributes: {
          material,
          colour,
          finish: random.pick(["gloss", "satin", "matt"]),
          volume: random.pick(VOLUMES),
          sold_by: "tin",
        },
      };
    case "garment":
      return {
        words: random.chance(0.4) ? `size ${random.pick(GARMENT_SIZES)}` : "",
        attributes: { material, colour, size: random.pick(GARMENT_SIZES) },
      };
    case "paper":
      return {
        words: random.chance(0.5) ? `no. ${1 + n}` : "",
        attributes: { material, edition: String(2015 + (n % 12)) },
      };
    default: {
      const size = `${SIZES[(n * 5) % SIZES.length]!} mm`;
      return {
        words: random.chance(0.8) ? size : "",
        attributes: { material, finish, size, ...(random.chance(0.3) ? { colour } : {}) },
      };
    }
  }
}

const FOREIGN = ["Τροχαλία", "Канат полиэстеровый", "Tovværk"];

function product(i: number, leaf: Leaf, n: number, random: Random): ItemInput {
  const { words, attributes } = variant(leaf.ware, n, random);
  const series = random.chance(0.45) ? random.pick(SERIES) : "";
  const feature = leaf.ware === "fitting" && random.chance(0.45) ? random.pick(FEATURES) : "";
  const material = attributes["material"]!;
  let name = capital(
    [series, `${series ? material : capital(material)} ${leaf.form} ${leaf.noun}`, words, feature]
      .filter(Boolean)
      .join(" "),
  );
  if (random.chance(0.015)) name = name.toUpperCase();
  if (random.chance(0.02)) name = name.replace(" ", "  ");
  if (random.chance(0.02)) name = `${name} "the quiet one"`;
  if (random.chance(0.015)) name = `${name} &amp; fixings`;
  if (random.chance(0.008)) name = `⚓ ${name}`;
  if (random.chance(0.01)) name = `${random.pick(FOREIGN)} ${name}`;
  const key = String(10_001 + i);
  const plain = name.replace(/&amp;/g, "&").replace(/\s+/g, " ");
  const keyword = random.chance(0.6) ? `${material} ${leaf.form} ${leaf.noun}`.replace(/’/g, "'") : "";
  const byHand: TextName[] = random.chance(0.03) ? ["title"] : [];
  const intro = `${capital(material)} ${leaf.noun} ${random.pick(["made in our own foundry", "cut to length in our loft", "finished by hand", "tested to 1,850 kg", "drawn from a pattern of 1902"])}${attributes["size"] ? `, ${attributes["size"]}` : ""}. ${random.pick(SENTENCES)}`;
  const price = (3 + random.below(24_000) / 100).toFixed(2);
  const path = `${leaf.path}/${productSlug(plain, key, random)}`;
  return {
    key,
    kind: "product",
    path,
    columns: {
      name,
      category: leaf.name,
      category_path: leaf.trail.join(" › "),
      keyword,
      title:
        byHand.length > 0
          ? `${capital(leaf.noun)} in ${material}: ${random.pick(["our best", "as fitted by Fennick", "made to last", "the one we use"])}`
          : productTitle(i, plain, leaf, keyword, random),
      description: productDescription(intro, leaf, random),
      slug: path.split("/").at(-1)!,
      summary: random.chance(0.35)
        ? `${capital(leaf.form)} ${leaf.noun} in ${material}. ${random.pick(SENTENCES)}`
        : "",
      intro,
      published: `${2016 + (i % 10)}-0${1 + (i % 9)}-1${i % 10}`,
      price,
    },
    attributes,
    body: null,
    byHand: byHand.length > 0 ? byHand : null,
  };
}

function productTitle(i: number, name: string, leaf: Leaf, keyword: string, random: Random): string {
  // Three titles that each stand on 34 pages, however large the site is.
  if (i % 367 === 11 && i < 367 * 34) return "Clearance offers at Fennick & Dray";
  if (i % 365 === 23 && i < 365 * 34) return "New this season | Fennick & Dray";
  if (i % 363 === 37 && i < 363 * 34) return "Fennick & Dray";
  const chance = random.next();
  if (chance < 0.03) return "";
  if (chance < 0.53) return `${name} | ${leaf.name} | ${leaf.trail[0]!} | Fennick & Dray Ships' Chandlers`;
  if (chance < 0.56 && keyword) return `${keyword}, ${keyword}s, buy ${keyword} - ${keyword} shop`;
  if (chance < 0.6 && keyword) return `Fennick & Dray | ${leaf.trail[0]!} | ${keyword}`;
  if (chance < 0.61) return `${name.replace(/&/g, "&amp;amp;")} | Fennick &amp; Dray`;
  if (chance < 0.64) return name.toUpperCase();
  return `${name} - Fennick & Dray`;
}

function productDescription(intro: string, leaf: Leaf, random: Random): string {
  const chance = random.next();
  if (chance < 0.2) return "";
  if (chance < 0.5)
    return `${intro} ${random.pick(SENTENCES)} ${random.pick(SENTENCES)} ${random.pick(SENTENCES)}`.slice(
      0,
      160 + random.below(110),
    );
  if (chance < 0.65)
    return `Buy ${leaf.name.toLowerCase()} online at Fennick & Dray. Large choice, fair prices, fast delivery to your berth.`;
  return `${intro} Order before three and it leaves our loft today.`;
}

function productSlug(name: string, key: string, random: Random): string {
  const base = cutSlug(slug(name), 70, ENGLISH.language);
  const chance = random.next();
  if (chance < 0.12) return `the-${base}-for-your-boat-${key}`;
  if (chance < 0.22) return `${base.replaceAll("-", "_")}_${key}`;
  if (chance < 0.3) return `${capital(base)}-${key}`;
  if (chance < 0.42) return `${base}-${key}-2`;
  if (chance < 0.5) return `2023-04-${base}-${key}`;
  return `${base}-${key}`;
}
