import { type Designs } from "../../core/design/designs";
import { type KindDesign, type Rule } from "../../core/design/design";
import { type ExtraName, EXTRAS, isPageExtra, type Kind, type TextName, textsOf } from "../../core/design/kinds";
import { readRobots } from "../../core/design/robots";
import { FORMS } from "../../core/keywords/place";
import { WantedSlugs } from "../../core/addresses/address-parts";
import { type AddressPlan, planAddresses } from "../../core/addresses/address-plan";
import { folderOf, lastSegment } from "../../core/addresses/addresses";
import { isOwnCanonical } from "../../core/addresses/canonical";
import { ChangeList } from "../../core/plan/change-list";
import { changeMark } from "../../core/plan/change-mark";
import { changeGroup, type WorseReason, worseReasons } from "../../core/plan/groups";
import { Cancelled } from "../../core/proof/prove-set";
import { differs, HAND, type TextProof } from "../../core/proof/text-proof";
import { type Decision } from "../../core/rules/decide";
import { type SiteAddresses, siteAddresses } from "../workspace/kind-addresses";
import { type MendedLink } from "../../store/links";
import { type KindData } from "../workspace/kind-data";
import { imageRow, type PageImages } from "../workspace/page-images";
import { type FaultyLine } from "../workspace/proofs";
import { type WorkWatch } from "../workspace/watch";
import { type RobotsOf, type Workspace } from "../workspace/workspace";
import { type SitePages } from "../workspace/site-pages";

/** A text of a kind: what changes of the list are of, with all that it takes to show and apply them. */
export type Unit = {
  readonly kind: Kind;
  readonly data: KindData;
  readonly firstPage: number;
  /** `null` where a row is a page; else its rows are these images. */
  readonly images: PageImages | null;
  /** The kind's rules, in their order. */
  readonly rules: readonly Pick<Rule, "id" | "name">[];
} & (
  | {
      readonly text: TextName | ExtraName;
      readonly live: TextProof;
      readonly draft: TextProof;
      /** The rules of the lines that the draft's numbers name; `null` for the base. */
      readonly owners: readonly (string | null)[];
    }
  | { readonly text: "robots"; readonly robots: RobotsOf }
  | { readonly text: "body"; readonly links: MendedLinks }
);

/** The row of the page that a unit's row is of. */
export function pageRow(unit: Unit, row: number): number {
  if (unit.text === "body") return unit.links[row]!.page;
  return unit.images ? unit.images.pages[row]! : row;
}

/** Which of the page's images, or links, a unit's row is, from 1; 0 for what is neither. */
export function partOf(unit: Unit, row: number): number {
  if (unit.text === "body") return unit.links[row]!.number;
  return unit.images ? unit.images.numbers[row]! : 0;
}

/** An image's address as it stands in the body, or a link's text; `""` for what is neither. */
export function labelOf(unit: Unit, row: number): string {
  if (unit.text === "body") return unit.links[row]!.text;
  return unit.images ? unit.images.sources.table.values[unit.images.sources.codes[row]!]! : "";
}

/** The row of a page's part by its number; -1 where there is none. */
export function rowOfPart(unit: Unit, page: number, part: number): number {
  if (unit.text === "body") return unit.links.findIndex((own) => own.page === page && own.number === part);
  return unit.images && page >= 0 ? imageRow(unit.images, page, part) : page;
}

/** Links that are to say something else, page by page. */
export type MendedLinks = readonly {
  /** The row of its page. */
  readonly page: number;
  readonly number: number;
  readonly text: string;
  readonly before: string;
  readonly after: string;
}[];

/** All that differs between a site and its drafts at one moment. */
export interface FoundChanges {
  readonly stamp: string;
  readonly changes: ChangeList;
  readonly units: readonly Unit[];
  readonly pages: SitePages;
  readonly addresses: SiteAddresses;
  /** Where each page would go that may move for its own slug or its kind’s address line, whatever is taken in. */
  readonly targets: ReadonlyMap<number, string>;
  /** The addresses that pages cannot have, since another page would be there. */
  readonly refused: ReadonlyMap<number, string>;
  readonly errors: readonly { kind: Kind; text: TextName | ExtraName | "address"; message: string }[];
}

/** What all slugs and address lines together would do to addresses, by page. */
interface AllMoves {
  readonly targets: FoundChanges["targets"];
  /** Changes that can never be applied. */
  readonly clashes: ReadonlyMap<number, string>;
  readonly reserved: ReadonlySet<number>;
}

/** What a change's text is now. */
export function before(unit: Unit, row: number): string {
  if (unit.text === "robots") return unit.data.items.value("robots", row);
  if (unit.text === "body") return unit.links[row]!.before;
  if (unit.text === "alt") return unit.images!.alts[row]!;
  return isPageExtra(unit.text) ? unit.data.pageExtra(unit.text)[row]! : unit.data.live[unit.text][row]!;
}

/** What it would be. */
export function after(unit: Unit, row: number): string {
  if (unit.text === "robots") return unit.robots(row).value;
  return unit.text === "body" ? unit.links[row]!.after : unit.draft.textOf(row);
}

/** What a change is told by, for a choice that holds as long as it is the same. */
export function markOf({ addresses, targets }: FoundChanges, unit: Unit, row: number): string {
  if (unit.text === "robots" || unit.text === "body") return `${before(unit, row)}>${after(unit, row)}`;
  const mark = changeMark(unit.live, unit.draft, row);
  if (unit.text !== "slug" || !addresses.isShaped(unit.kind)) return mark;
  // Where the whole address is put together, the slug alone does not tell the move.
  return `${mark} ${targets.get(unit.firstPage + row) ?? ""}`;
}

/** @param mends the links that are to say something else. @param stamp of all that the changes rest on. */
export function findChanges(
  workspace: Workspace,
  designs: Designs,
  { mends, stamp }: { readonly mends: readonly MendedLink[]; readonly stamp: string },
  watch: WorkWatch,
): FoundChanges {
  const kinds = workspace.kindsWithPages(watch);
  const pages = workspace.pages(watch);
  const units: Unit[] = [];
  const errors: FoundChanges["errors"][number][] = [];
  const switchedOn = EXTRAS.filter((extra) => workspace.site().extras[extra]);
  for (const kind of kinds) {
    const design = designs[kind];
    if (!design) continue;
    const { rules } = design;
    const common = { kind, data: workspace.data(kind), firstPage: pages.startOf.get(kind)!, images: null, rules };
    units.push({ ...common, text: "robots", robots: workspace.robots(kind, design, watch) });
    for (const text of textsOf(kind)) {
      const { proof, faults, decision } = workspace.textProof(kind, text, design, watch);
      errors.push(...errorsOf({ kind, text }, design, faults));
      const owners = ownersOf(decision);
      units.push({ ...common, text, owners, live: workspace.liveProof(kind, text, watch).proof, draft: proof });
    }
    for (const text of switchedOn) {
      const { proof, faults, decision } = workspace.extraProof(kind, text, design, watch);
      errors.push(...errorsOf({ kind, text }, design, faults));
      const images = text === "alt" ? workspace.images(kind, watch) : null;
      const owners = ownersOf(decision);
      const live = workspace.liveExtraProof(kind, text, watch).proof;
      units.push({ ...common, images, text, owners, live, draft: proof });
    }
  }
  units.push(...unitsOfLinks(mends, workspace, kinds, designs, pages));
  const changes = new ChangeList();
  const addresses = siteAddresses(workspace, kinds, designs, pages.startOf);
  errors.push(...addresses.faults.map(({ kind, message }) => ({ kind, text: "address" as const, message })));
  const reservedWords = new Set(workspace.site().reserved.map((word) => word.toLowerCase()));
  const mayMove = (kind: Kind) => workspace.mayMove(kind, designs[kind]!);
  const moves = allMoves({ units, pages, addresses, mayMove }, reservedWords);
  const { baseUrl } = workspace.site();
  units.forEach((unit, number) => {
    if (unit.text === "robots") collectRobots(unit, number, changes);
    else if (unit.text === "body") unit.links.forEach((_, row) => changes.add(number, row, "links"));
    else collectTexts(unit, number, changes, { moves, watch, isSame: saysTheSame(unit, baseUrl) });
  });
  const { targets, clashes: refused } = moves;
  return { stamp, changes, units, pages, addresses, targets, refused, errors };
}

/** The kinds’ links that are to say something else. */
function unitsOfLinks(
  mends: readonly MendedLink[],
  workspace: Workspace,
  kinds: readonly Kind[],
  designs: Designs,
  pages: SitePages,
): Unit[] {
  if (mends.length === 0) return [];
  return kinds.flatMap((kind): Unit[] => {
    const data = workspace.data(kind);
    const links = mends.flatMap(({ item, number, text, href, after }) => {
      const page = data.rowOf(item);
      return page < 0 ? [] : [{ page, number, text, before: href, after }];
    });
    if (links.length === 0) return [];
    const firstPage = pages.startOf.get(kind)!;
    return [{ kind, data, firstPage, images: null, rules: designs[kind]?.rules ?? [], text: "body", links }];
  });
}

function ownersOf({ lines }: Decision): (string | null)[] {
  return lines.map(({ rule }) => rule?.id ?? null);
}

/** What is wrong with the lines of a text, in words. */
function errorsOf(
  of: { readonly kind: Kind; readonly text: TextName | ExtraName },
  design: KindDesign,
  faults: readonly FaultyLine[],
): FoundChanges["errors"] {
  return faults.map(({ rule, message }) => ({
    ...of,
    message: rule === null ? message : `${message} (rule “${ruleName(design, rule)}”)`,
  }));
}

function ruleName({ rules }: KindDesign, id: string): string {
  return rules.find((rule) => rule.id === id)?.name ?? id;
}

/** Whether a row's slug is another one than the site has; a text by hand that is on the site already stays. */
function isSlugChange({ draft, live }: { draft: TextProof; live: TextProof }, row: number): boolean {
  return draft.lengths[row] !== 0 && differs(draft, live, row);
}

/** The slug that a page has or is to have: what its address line puts in. */
export function slugToBe(unit: Unit, row: number): string {
  const made = after(unit, row);
  return made !== "" ? made : lastSegment(unit.data.paths[row]!);
}

/** Where pages would go with all slugs and address lines, and which of them can never go: to what the site answers at itself, or where all others would be in their new places. */
function allMoves(
  {
    units,
    pages,
    addresses,
    mayMove,
  }: Pick<FoundChanges, "units" | "pages" | "addresses"> & {
    readonly mayMove: (kind: Kind) => (row: number) => boolean;
  },
  reservedWords: ReadonlySet<string>,
): AllMoves {
  const slugs = new Map<number, string>();
  const reserved = new Set<number>();
  for (const unit of units) {
    if (unit.text !== "slug") continue;
    const isShaped = addresses.isShaped(unit.kind);
    const isMovable = mayMove(unit.kind);
    for (let row = 0; row < unit.draft.size; row++) {
      const isWanted = isSlugChange(unit, row) || (isShaped && isMovable(row));
      if (!isWanted) continue;
      const slug = slugToBe(unit, row);
      if (slug === "") continue;
      if (reservedWords.has(slug.toLowerCase())) reserved.add(unit.firstPage + row);
      else slugs.set(unit.firstPage + row, slug);
    }
  }
  const wanted = {
    known: pages.known,
    slugs: new WantedSlugs(pages.known, slugs),
    fixed: reserved,
    shaped: addresses.shaped,
  };
  const { held, moves } = planAddresses(wanted);
  const clashes = new Map(
    [...held].flatMap(([page, { why, path }]): [number, string][] => (why === "clash" ? [[page, path]] : [])),
  );
  return { targets: targetsOf(moves, slugs), clashes, reserved };
}

function targetsOf(moves: AddressPlan["moves"], slugs: ReadonlyMap<number, string>): ReadonlyMap<number, string> {
  return new Map(moves.flatMap(({ page, to }) => (slugs.has(page) ? [[page, to]] : [])));
}

function collectRobots(unit: Unit & { text: "robots" }, number: number, changes: ChangeList): void {
  const { codes, table } = unit.data.items.column("robots");
  const live = table.values.map(readRobots);
  for (let row = 0; row < codes.length; row++)
    if (unit.robots(row).value !== live[codes[row]!]) changes.add(number, row, "robots");
}

/** Puts what a text's lines change in the list. */
function collectTexts(
  unit: Unit & { text: TextName | ExtraName },
  number: number,
  changes: ChangeList,
  {
    moves: { targets, clashes, reserved },
    watch,
    isSame,
  }: { readonly moves: AllMoves; readonly watch: WorkWatch; readonly isSame: (row: number) => boolean },
): void {
  const { kind, text, data, draft, live, firstPage } = unit;
  const slug = text === "slug";
  for (let row = 0; row < draft.size; row++) {
    if (row % 4096 === 0) {
      if (watch.cancelled?.()) throw new Cancelled();
      watch.progress?.({ step: "comparing", kind, text, side: null, share: row / draft.size });
    }
    const target = slug ? targets.get(firstPage + row) : undefined;
    const isOther = differs(draft, live, row) && !isSame(row);
    const moves = target !== undefined || (slug && clashes.has(firstPage + row));
    const changed = isOther || moves;
    const hand = draft.from[row] === HAND;
    // Nothing is ever replaced by nothing, and what stays is no change; a text by hand is listed to say that it stays.
    if (changed ? draft.lengths[row] === 0 && !moves : !hand) continue;
    const group = changeGroup({
      slug,
      byHand: hand && !changed,
      // A person chose the slug, not the folder that an address line puts the page in.
      written: hand && isOther && !(target !== undefined && goesElsewhere(data.paths[row]!, target)),
      ...textFacts(unit, row),
      clashes: slug && clashes.has(firstPage + row),
      reserved: slug && reserved.has(firstPage + row),
      withoutAddress: slug && data.paths[row] === "",
    });
    changes.add(number, row, group);
  }
}

/** Whether two texts say the same though they read otherwise: canonicals that are the page’s own address. */
function saysTheSame(
  { text, data, live, draft }: Unit & { text: TextName | ExtraName },
  baseUrl: string,
): (row: number) => boolean {
  if (text !== "canonical") return () => false;
  const isOwn = (proof: TextProof, row: number) => isOwnCanonical(proof.textOf(row), data.paths[row]!, baseUrl);
  return (row) => isOwn(draft, row) && isOwn(live, row);
}

function goesElsewhere(path: string, target: string): boolean {
  return path !== "" && folderOf(path) !== folderOf(target);
}

/** What is known of a text beside the one that it takes the place of. */
function textFacts({ text, draft, live }: Unit & { text: TextName | ExtraName }, row: number) {
  const slug = text === "slug";
  // Pages have the same keywords often, and the same canonical, and that is as it should be.
  const isToldApart = !isPageExtra(text);
  const isRead = text !== "canonical";
  return {
    // A page without a canonical is its own.
    liveEmpty: live.lengths[row] === 0 && text !== "canonical",
    liveFits: live.fits[row] === 1,
    fits: slug || draft.fits[row] === 1,
    liveDuplicate: isToldApart && live.groups.countOf(row) > 1,
    duplicate: isToldApart && draft.groups.countOf(row) > 1,
    liveHasKeyword: isRead && showsKeyword(live, row),
    hasKeyword: isRead && showsKeyword(draft, row),
  };
}

/** What makes a change one for the worse; of how many pages its text would be then. */
export function worseOf(unit: Unit, row: number): { readonly reasons: readonly WorseReason[]; readonly alike: number } {
  if (unit.text === "robots" || unit.text === "body") return { reasons: [], alike: 1 };
  const reasons = worseReasons({ slug: unit.text === "slug", ...textFacts(unit, row) });
  return { reasons, alike: unit.draft.groups.countOf(row) };
}

/** Whether the keyword is seen in a text in exact or variant form. */
function showsKeyword({ form, keywordSeen }: TextProof, row: number): boolean {
  const own = FORMS[form[row]! - 1];
  return (own === "exact" || own === "variant") && keywordSeen[row] === 1;
}
