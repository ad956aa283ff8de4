import { Liquid } from "liquidjs";
import pixelWidth from "string-pixel-width";
import { baseDesign, type KindDesign } from "../core/design/design";
import { fontById } from "../core/measure/font";
import { DEMO_LINES } from "../demo/site";
import { type Workspace } from "../server/workspace/workspace";
import { BASE_LINES, sixRules } from "./designs";
import { type Figure, median } from "./measure";
import { BenchDesk } from "../server/bench/bench-desk";

const PRODUCT = "product";

/** The same design with something else at the end of each line each time, so that nothing proved before can be given again. */
function fresh(round: number, lines: Record<string, string> = BASE_LINES): KindDesign {
  const base = Object.entries(lines).map(([text, line]) => [text, `${line} ${"x".repeat((round + 2) % 5)}`]);
  return { ...baseDesign(Object.fromEntries(base)), moves: "all" };
}

/** What is typed at the end of the base's title line. */
const TYPED = " – by Fennick & Dray";

function keystroke(round: number): KindDesign {
  const six = sixRules();
  return {
    ...six,
    base: { ...six.base, title: six.base.title + TYPED.slice(0, 2 + ((round + 1) % (TYPED.length - 2))) },
  };
}

function columnsOf(engine: Workspace): (name: string, row: number) => string {
  const { items } = engine.data(PRODUCT);
  return (name, row) => items.value(name, row);
}

/** The least that any program must do for the same lines: put the fields together and sum the widths of their characters. */
export function bareLoop(engine: Workspace, suffix: string): number {
  const { items } = engine.data(PRODUCT);
  const font = fontById("arimo-400");
  const [name, finish, category, intro, colour] = ["name", "finish", "category", "intro", "colour"].map((field) =>
    items.column(field),
  );
  const value = (column: NonNullable<typeof name>, row: number) => column.table.values[column.codes[row]!]!;
  let sum = 0;
  for (let row = 0; row < items.size; row++) {
    const title = `${value(name!, row)} in ${value(finish!, row)} finish – ${value(category!, row)}${suffix}`;
    const description = `${value(intro!, row)} In ${value(finish!, row)} finish. Cut and sent from our loft the same day.${suffix}`;
    const slug = `${value(name!, row)}-${value(finish!, row)}-${value(colour!, row)}${suffix}`;
    for (const text of [title, description, slug])
      for (let i = 0; i < text.length; i++) sum += font.advance[font.glyphOf[text.charCodeAt(i)]!]!;
  }
  return sum;
}

/** A general-purpose template engine and a string-width package, for rendering and measuring alone: nothing is fitted, placed or compared. */
function templateEngine(engine: Workspace): () => number {
  const liquid = new Liquid();
  const title = liquid.parse(
    "{{name}}{% if finish %} in {{finish}} finish{% endif %}{% if category %} – {{category}}{% endif %}",
  );
  const description = liquid.parse(
    "{{intro}}{% if finish %} In {{finish}} finish.{% endif %} Cut and sent from our loft the same day.",
  );
  const slug = liquid.parse(
    "{{name | downcase}}{% if finish %}-{{finish}}{% endif %}{% if colour %}-{{colour}}{% endif %}",
  );
  const value = columnsOf(engine);
  const fields = ["name", "finish", "category", "intro", "colour"];
  const { size } = engine.data(PRODUCT).items;
  return () => {
    let sum = 0;
    for (let row = 0; row < size; row++) {
      const item = Object.fromEntries(fields.map((field) => [field, value(field, row) || undefined]));
      sum += pixelWidth(liquid.renderSync(title, item) as string, { size: 20 });
      sum += pixelWidth(liquid.renderSync(description, item) as string, { size: 14 });
      sum += (liquid.renderSync(slug, item) as string).length;
    }
    return sum;
  };
}

const items = (engine: Workspace) => `${engine.data(PRODUCT).ids.length.toLocaleString("en")} products`;

/** Three lines proved over the whole set, beside the bare loop. */
export function provingFigures(engine: Workspace, rounds: number): Figure[] {
  const desk = new BenchDesk(engine);
  desk.prove(PRODUCT, fresh(-2));
  const ms = median(rounds, (round) => void desk.prove(PRODUCT, fresh(round)));
  const baselineMs = median(rounds, (round) => void bareLoop(engine, "x".repeat(round + 2)));
  const apart = median(3, (round) => void desk.prove(PRODUCT, fresh(round, DEMO_LINES.product)));
  const baseline = "concatenate and sum widths";
  return [
    {
      name: `prove three base lines, ${items(engine)}`,
      ms,
      baseline,
      baselineMs,
      bound: "at most 4 ×",
      holds: ms <= 4 * baselineMs,
    },
    { name: `the same with filters and ^apart`, ms: apart, baseline, baselineMs },
  ];
}

/** The same proof beside a template engine that only renders and measures. */
export function templateFigure(engine: Workspace): Figure {
  const desk = new BenchDesk(engine);
  const ms = median(5, (round) => void desk.prove(PRODUCT, fresh(round)));
  const baselineMs = median(3, templateEngine(engine));
  return {
    name: `prove three base lines, ${items(engine)}`,
    ms,
    baseline: "template engine and string width",
    baselineMs,
    bound: "at most 0.2 ×",
    holds: ms <= baselineMs / 5,
  };
}

/** What a keystroke asks of the server: one text's line typed in the base, six rules with all three lines, `^apart` included. */
export function keystrokeMs(engine: Workspace, rounds: number): number {
  const query = {
    text: "title",
    scope: "base",
    sort: "widest",
    filter: "all",
    search: "",
    from: 0,
    count: 60,
  } as const;
  const desk = new BenchDesk(engine);
  desk.prove(PRODUCT, sixRules(), {}, query);
  return median(rounds, (round) => {
    const design = keystroke(round);
    desk.prove(PRODUCT, design, {}, query);
    desk.rows(PRODUCT, design, query);
  });
}
