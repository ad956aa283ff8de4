import { type KindDesign, type LinesFile, type Rule, type Site } from "./design";
import { type Kind } from "./kinds";

/** A site's design as a lines file holds it: ids of rules are the application's own and stay out of it. */
export function linesFileOf(site: Site, designs: Readonly<Record<Kind, KindDesign>>): LinesFile {
  const kinds = Object.entries(designs).map(([kind, { rules, ...design }]) => [
    kind,
    { ...design, rules: rules.map(({ id: _, ...written }) => written) },
  ]);
  return { format: "nine-lines/1", site, kinds: Object.fromEntries(kinds) };
}

/**
 * A kind of a lines file as a design. A rule that the present design has under the same name keeps its id, so that it is
 * known as the same; others get one from `newId`.
 */
export function designOfFile(file: LinesFile, kind: Kind, present: KindDesign, newId: () => string): KindDesign {
  const { rules, ...design } = file.kinds[kind] ?? { base: {}, rules: [] };
  const free = [...present.rules];
  return {
    ...design,
    rules: rules.map((written): Rule => {
      const at = free.findIndex((rule) => rule.name === written.name);
      const id = at >= 0 ? free.splice(at, 1)[0]!.id : newId();
      return { id, ...written };
    }),
  };
}
