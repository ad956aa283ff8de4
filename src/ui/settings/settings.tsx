"use client";
import { type ReactNode, useMemo, useState } from "react";
import { toast } from "sonner";
import { type Site } from "../../core/design/design";
import { BAR_ACTION, MAIN_ACTION } from "../shell/actions";
import { ApiError, call, wordsOf } from "../shell/api";
import { Later, useLater } from "../shell/later";
import { BarSlot } from "../shell/shell";
import { useSite } from "../shell/site-context";
import { useUrlView } from "../shell/url-view";
import { ExtrasSection } from "./extras-section";
import { FiguresSection } from "./figures-section";
import { ChecksSection } from "./checks-section";
import { KindsSection } from "./kinds-section";
import { SiteSection } from "./site-section";
import { type SettingsPart } from "./settings-part";
import { SlugsSection } from "./slugs-section";
import { SurfacesSection } from "./surfaces-section";
import { TopicList } from "./topic-list";
import { goingOnFrom } from "./typed-settings";
import { type Topic, TOPIC_LABELS, topicCodec, topicOfPath, topicStates } from "./topics";
import { useTypedSettings } from "./use-typed-settings";

/** What is wrong with settings is told by the same schema as on the server. */
const SCHEMA = new Later(() => import("../../core/design/schema"));

const TAKEN_OVER =
  "Another window saved other settings meanwhile. They are here now, with what you typed; look at them and save again.";

/** The page of each topic. */
const SECTIONS: Readonly<Record<Topic, (part: SettingsPart) => ReactNode>> = {
  site: SiteSection,
  kinds: KindsSection,
  surfaces: SurfacesSection,
  slugs: SlugsSection,
  figures: FiguresSection,
  extras: ExtrasSection,
  checks: ChecksSection,
};

/** What a site is, where its texts are seen, how its addresses are made, what is checked. */
export function Settings() {
  const { state } = useSite();
  return state.site ? (
    <Form stored={state.site} />
  ) : (
    <p className="p-8">There are no pages yet. Import a file of pages first.</p>
  );
}

function Form({ stored }: { stored: Site }) {
  const { refresh } = useSite();
  const [{ topic }, setView] = useUrlView("/settings", topicCodec);
  const { typed, isChanged, put, discard, accept } = useTypedSettings(stored);
  const { site, of } = typed;
  const [saving, setSaving] = useState(false);
  const schema = useLater(SCHEMA, true);
  const errors = useMemo(() => {
    const checked = schema?.siteSchema.safeParse(site);
    return new Map((checked?.error?.issues ?? []).map((issue) => [issue.path.join("."), issue.message]));
  }, [schema, site]);
  const save = async () => {
    setSaving(true);
    try {
      const { site: saved } = await call("site.saveSettings", { site, seen: of });
      if (saved) accept(site, saved);
      // They are saved, whatever becomes of looking at what they did.
      await refresh().catch(() => {});
      toast("Settings saved; every page is checked with them now");
    } catch (error) {
      const isOvertaken = error instanceof ApiError && error.code === "conflict";
      const present = isOvertaken ? (await refresh().catch(() => null))?.site : null;
      const isTakenOver = present && goingOnFrom(present, typed).of === present;
      toast.error(isTakenOver ? TAKEN_OVER : wordsOf(error));
    } finally {
      setSaving(false);
    }
  };
  const part: SettingsPart = { site, put, errors };
  const [wrong] = errors;
  const Section = SECTIONS[topic];
  return (
    <div className="desk [--columns:220px_minmax(0,1fr)]">
      <BarSlot>
        <span role="status" className={`text-[12px] ${wrong ? "font-semibold text-yellow" : "text-bar-soft"}`}>
          {wrong ? `${TOPIC_LABELS[topicOfPath(wrong[0])]}: ${wrong[1]}` : isChanged ? "Not saved yet" : "Saved"}
        </span>
        <button type="button" className={BAR_ACTION} disabled={!isChanged || saving} onClick={discard}>
          Discard changes
        </button>
        <button
          type="button"
          className={MAIN_ACTION}
          disabled={!isChanged || saving || !schema || errors.size > 0}
          onClick={() => void save()}
        >
          Save settings
        </button>
      </BarSlot>
      <TopicList topic={topic} states={topicStates(site, of, errors)} onTopic={(next) => setView({ topic: next })} />
      <div
        key={topic}
        className="min-h-0 overflow-auto bg-sheet px-8 pb-24 pt-4 small:px-4"
        tabIndex={0}
        role="region"
        aria-label={TOPIC_LABELS[topic]}
      >
        <h1 className="sr-only">Settings</h1>
        <Section {...part} />
      </div>
    </div>
  );
}
