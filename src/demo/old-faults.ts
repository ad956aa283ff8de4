import { type ItemColumn, type ItemInput } from "../store/items";

/** A fault of the kind that gathers on an old site: what it changes of a post. */
type Fault = (
  post: ItemInput,
  columns: Record<ItemColumn, string>,
) => Partial<Omit<ItemInput, "columns">> & { readonly columns?: Partial<Record<ItemColumn, string>> };

const subjectOf = (name: string) => name.split(":")[0]!;

/** One of each: every finding that is not common on the site anyway is found somewhere. */
const FAULTS: readonly Fault[] = [
  (_, { description, name }) => ({
    columns: {
      title: description || `${name}, told by those who do it.`,
      description: description || `${name}, told by those who do it.`,
    },
  }),
  (_, { name }) => ({ columns: { title: `${subjectOf(name)} – | Notes` } }),
  (_, { name }) => ({ columns: { title: `${subjectOf(name)}\u200b for for  every deck` } }),
  (_, { name }) => ({ columns: { title: `${subjectOf(name)} in {series}` } }),
  (_, { name }) => ({ columns: { title: `${subjectOf(name)} in the season of 2021` } }),
  (_, { name }) => ({ columns: { title: `${subjectOf(name)} Ã¼ber alles, from the loft` } }),
  (_, { name }) => ({
    columns: { title: `${subjectOf(name)}s from our own loft`, keyword: subjectOf(name).toLowerCase() },
  }),
  () => ({ columns: { description: "Read on." } }),
  (_, { name }) => ({
    columns: {
      description: `READ ALL THAT OUR RIGGERS KNOW ABOUT ${subjectOf(name).toUpperCase()} AND BUY WHAT YOU NEED FOR IT TODAY.`,
    },
  }),
  (_, { name }) => ({
    columns: {
      description: `${subjectOf(name)} &amp; more <b>from the loft</b>, told by those who do it every day of the year.`,
    },
  }),
  (_, { name }) => ({
    columns: {
      description: `${subjectOf(name)}\u200f as our riggers do it: what to buy, what to leave and what to do first.`,
    },
  }),
  (_, { name }) => ({
    columns: {
      description: `${subjectOf(name)} in {series}, told by {author}, who has done it for a lifetime and longer.`,
    },
  }),
  (_, { name }) => ({
    columns: {
      description: `${subjectOf(name)} in 2020: what was new that year, what it cost, and who in the harbour bought it.`,
    },
  }),
  (_, { name }) => ({
    columns: {
      description: `${subjectOf(name)} \ufffd what to buy, what to leave, and what to do first when the weather turns.`,
    },
  }),
  (_, { name }) => ({
    columns: {
      keyword: subjectOf(name).toLowerCase(),
      description: `${subjectOf(name)}, ${subjectOf(name).toLowerCase()} and again ${subjectOf(name).toLowerCase()}: all there is to know in one place.`,
    },
  }),
  (_, { intro }) => ({ columns: { description: intro.slice(0, Math.max(60, intro.length - 30)) } }),
  (_, { name, intro }) => ({ columns: { description: `${subjectOf(name)}: ${`${intro} `.repeat(4).trim()}` } }),
  (post) => ({ path: `/?p=${post.key!.slice(1)}`, columns: { slug: "" } }),
  () => ({
    path: "/notes/how-we-work",
    columns: { slug: "how-we-work", name: "How we work", title: "How we work at the loft" },
  }),
  () => ({
    path: "/notes/how-we-work/",
    columns: { slug: "how-we-work", name: "How we work: the yard", title: "How we work at the yard" },
  }),
  () => ({ path: "/notes/search", columns: { slug: "search", name: "Search and rescue: what to carry" } }),
  () => ({ path: "/notes/über-größen", columns: { slug: "über-größen" } }),
  (_, { slug }) => ({ path: `/notes/archive/2016/loft/winter/ropes/${slug}`, columns: { slug } }),
  () => ({ columns: { keyword: "boat care in winter" } }),
  (_, { name }) => ({
    columns: { keyword: subjectOf(name).toLowerCase() },
    body: `<p>${`${subjectOf(name)}. `.repeat(6)}Ask at the loft.</p>`,
  }),
  (_, { name, intro }) => ({
    columns: { keyword: subjectOf(name).toLowerCase() },
    body: `<p>${intro}</p><h2>Before you begin</h2><p>${subjectOf(name)} takes time. ${intro.repeat(3)}</p>`,
  }),
  (_, { name, intro }) => ({
    columns: { keyword: subjectOf(name).toLowerCase() },
    body: `<p>${intro}</p><img src="/i/1.jpg" alt=""><p>${subjectOf(name)} takes time. ${intro.repeat(3)}</p>`,
  }),
  (_, { name }) => ({ columns: { robots: "noindex, follow", title: `${name}, from the loft` } }),
  () => ({
    path: "/notes/privacy",
    columns: { name: "Privacy", slug: "privacy", title: "What we know of you, and what we do not", keyword: "" },
  }),
];

/** Every so many posts have one of the faults. */
const EVERY = 29;
const FIRST = 7;

/** A post with the fault that its place among the posts brings along, if any. */
export function withOldFault(place: number, post: ItemInput): ItemInput {
  if (place % EVERY !== FIRST) return post;
  const fault = FAULTS[Math.floor(place / EVERY)];
  if (!fault) return post;
  const { columns, ...rest } = fault(post, post.columns as Record<ItemColumn, string>);
  return { ...post, ...rest, columns: { ...post.columns, ...columns }, byHand: null };
}
