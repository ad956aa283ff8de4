import { useSitePath } from "../shell/site-path";
import { type Topic, TOPIC_LABELS, TOPICS, topicCodec, type TopicState } from "./topics";

const STATE_WORDS: Readonly<Record<TopicState, string>> = {
  stored: "",
  changed: "not saved",
  wrong: "to correct",
};

/** What the settings are about; a link each, so that one can be opened beside another. */
export function TopicList({
  topic,
  states,
  onTopic,
}: {
  topic: Topic;
  states: Readonly<Record<Topic, TopicState>>;
  onTopic: (topic: Topic) => void;
}) {
  const pathOf = useSitePath();
  return (
    <nav aria-label="Settings" className="desk-first border-r border-hair py-3">
      <ul className="small:columns-2 small:gap-0">
        {TOPICS.map((own) => {
          const query = topicCodec.write({ topic: own });
          const isShown = own === topic;
          return (
            <li key={own}>
              <a
                href={pathOf(query === "" ? "/settings" : `/settings?${query}`)}
                aria-current={isShown ? "page" : undefined}
                onClick={(event) => {
                  // A tab of its own is the browser's to open.
                  if (event.ctrlKey || event.metaKey || event.shiftKey) return;
                  event.preventDefault();
                  onTopic(own);
                }}
                className={`flex items-baseline justify-between gap-2 border-l-[3px] px-4 py-1.5 ${
                  isShown ? "border-key bg-sheet font-semibold" : "border-transparent text-soft hover:text-key"
                }`}
              >
                {TOPIC_LABELS[own]}
                {states[own] !== "stored" && (
                  <span
                    className={`narrow text-[12px] font-normal ${states[own] === "wrong" ? "text-magenta" : "text-soft"}`}
                  >
                    {STATE_WORDS[states[own]]}
                  </span>
                )}
              </a>
            </li>
          );
        })}
      </ul>
    </nav>
  );
}
