import { type Site } from "../../core/design/design";
import { oneOf, urlCodec } from "../shell/url-codec";

/** What the settings are about, in their order: a page each. */
export const TOPICS = ["site", "kinds", "surfaces", "slugs", "figures", "extras", "checks"] as const;
export type Topic = (typeof TOPICS)[number];

export const TOPIC_LABELS: Readonly<Record<Topic, string>> = {
  site: "The site",
  kinds: "Kinds of page",
  surfaces: "Surfaces and limits",
  slugs: "Slugs and addresses",
  figures: "Numbers and dates",
  extras: "Extra texts",
  checks: "Checks",
};

/** On which page each setting is. */
const TOPIC_OF: Readonly<Record<keyof Site, Topic>> = {
  name: "site",
  tagline: "site",
  sep: "site",
  baseUrl: "site",
  language: "site",
  fixedWords: "site",
  kinds: "kinds",
  surfaces: "surfaces",
  limits: "surfaces",
  slug: "slugs",
  reserved: "slugs",
  slashEnd: "slugs",
  dropQueries: "slugs",
  formats: "figures",
  extras: "extras",
  checks: "checks",
};

export const topicCodec = urlCodec<{ topic: Topic }>({ topic: oneOf(TOPICS, "site") });

/** How a topic stands: as it is stored, changed, or with a value that cannot be. */
export type TopicState = "stored" | "changed" | "wrong";

/** How each topic of edited settings stands. @param errors by the path of the value, such as `limits.title.chars`. */
export function topicStates(
  site: Site,
  stored: Site,
  errors: ReadonlyMap<string, string>,
): Readonly<Record<Topic, TopicState>> {
  const states = Object.fromEntries(TOPICS.map((topic) => [topic, "stored"])) as Record<Topic, TopicState>;
  for (const key of Object.keys(TOPIC_OF) as (keyof Site)[])
    if (JSON.stringify(site[key]) !== JSON.stringify(stored[key])) states[TOPIC_OF[key]] = "changed";
  for (const path of errors.keys()) states[topicOfPath(path)] = "wrong";
  return states;
}

/** The page that has a setting. @param path such as `limits.title.chars`. */
export function topicOfPath(path: string): Topic {
  const [key] = path.split(".");
  return TOPIC_OF[key as keyof Site] ?? "site";
}
