import { Refusal } from "../../core/refusal";
import { randomUUID } from "node:crypto";
import { type KindDesign, type LinesFile, type Site } from "../../core/design/design";
import { type Difference, differenceOf, type SiteDifference, siteDifference } from "../../core/design/difference";
import { type Kind, kindIds, type KindInfo, kindOf, TEXTS, withKinds } from "../../core/design/kinds";
import { designOfFile, linesFileOf } from "../../core/design/lines-file";
import { parseShape } from "../../core/addresses/parse-shape";
import { parseLine } from "../../core/lines/parse";
import { readLinesFile } from "../../formats/lines-file";
import { readDraft, writeDraft } from "../../store/drafts";
import { saveVersion } from "../../store/versions";
import { type Db } from "../../store/open";
import { readSite, writeSite } from "../../store/site";

/** What bringing a lines file in would change, before it does. */
export interface LinesFileReview {
  readonly kinds: readonly {
    readonly kind: Kind;
    readonly differences: readonly Difference[];
    readonly rules: number;
  }[];
  readonly site: readonly SiteDifference[];
  /** Lines that have an error in any case; they come in, and are not applied until they are mended. */
  readonly faults: readonly {
    readonly kind: Kind;
    readonly rule: string | null;
    readonly text: string;
    readonly message: string;
  }[];
}

/** The drafts of a site as a lines file. */
export function writeLinesFile(db: Db): string {
  const site = readSite(db);
  if (!site) throw new Refusal("not-found", "There are no pages yet. Import a file of pages, or create the demo site");
  const designs = Object.fromEntries(kindIds(site).map((kind) => [kind, readDraft(db, kind).design]));
  return `${JSON.stringify(linesFileOf(site, designs), null, 2)}\n`;
}

/** @throws {FileError} with line and column for a file that cannot be used. */
export function reviewLinesFile(db: Db, name: string, text: string): LinesFileReview {
  const file = readLinesFile(name, text);
  const kinds = kindsIn(file).map((kind) => {
    const present = readDraft(db, kind).design;
    const design = designOfFile(file, kind, present, randomUUID);
    return { kind, differences: differenceOf(present, design), rules: design.rules.length };
  });
  const faults = kindsIn(file).flatMap((kind) => faultsOf(kind, file));
  return {
    kinds,
    site: siteDifference(readSite(db)!, siteOf(file, readSite(db)!, text)),
    faults,
  };
}

/**
 * Takes a lines file over into the drafts of the kinds that it has, and with `site` the site's settings. The drafts that it
 * takes the place of are put aside under a name first.
 */
export function adoptLinesFile(db: Db, name: string, text: string, site: boolean, now: string): Kind[] {
  const file = readLinesFile(name, text);
  return db
    .transaction(() => {
      const changed: Kind[] = [];
      for (const kind of kindsIn(file)) {
        const present = readDraft(db, kind).design;
        const design = designOfFile(file, kind, present, randomUUID);
        if (differenceOf(present, design).length === 0) continue;
        saveVersion(db, { kind, name: `Before ${name}`, design: present, run: null }, now);
        writeDraft(db, kind, design, now);
        changed.push(kind);
      }
      const present = readSite(db)!;
      const next = site ? siteOf(file, present, text) : { ...present, kinds: kindsWith(present, file) };
      if (JSON.stringify(next) !== JSON.stringify(present)) writeSite(db, next);
      return changed;
    })
    .immediate();
}

function kindsIn(file: LinesFile): Kind[] {
  return kindIds(file.site).filter((kind) => file.kinds[kind] !== undefined);
}

/** The site with the settings that the file names; what it leaves out stays as it is. */
function siteOf(file: LinesFile, present: Site, text: string): Site {
  const named = (JSON.parse(text.replace(/^\ufeff/, "")) as { site?: object }).site ?? {};
  return {
    ...present,
    ...Object.fromEntries(
      Object.keys(named).flatMap((key) => (key in file.site ? [[key, file.site[key as keyof Site]]] : [])),
    ),
    kinds: withKinds(present.kinds, file.site.kinds),
  };
}

/** The site's kinds with those that the file has lines for, so that no line is for a kind that nobody knows. */
function kindsWith(present: Site, file: LinesFile): KindInfo[] {
  const missing = kindsIn(file).filter((kind) => !kindOf(present, kind));
  return withKinds(
    present.kinds,
    file.site.kinds.filter(({ id }) => missing.includes(id)),
  );
}

function faultsOf(kind: Kind, file: LinesFile): LinesFileReview["faults"] {
  const { base, rules, address } = file.kinds[kind]!;
  const wrongAddress = address?.trim() ? parseShape(address).line.errors.slice(0, 1) : [];
  const owners: [string | null, KindDesign["base"]][] = [
    [null, base],
    ...rules.map((rule): [string, KindDesign["base"]] => [rule.name, rule]),
  ];
  const ofLines = owners.flatMap(([rule, lines]) =>
    TEXTS.flatMap((text) =>
      parseLine(lines[text] ?? "")
        .errors.slice(0, 1)
        .map(({ message }) => ({ kind, rule, text, message })),
    ),
  );
  return [...ofLines, ...wrongAddress.map(({ message }) => ({ kind, rule: null, text: "address" as const, message }))];
}
