/** How an operator of a condition (`LINES.md`, Rules) is said. What it takes and asks of a value stands in `operators`. */
interface OperatorWords {
  /** How many values a person gives it. */
  readonly values: 0 | 1 | 2 | "many";
  /** As it stands between a field's name and its value. */
  readonly label: string;
  /** As a person would say it, behind the field's name. @param value one that the operator takes. */
  readonly said: (value: unknown) => string;
}

const MOST_LISTED = 4;

function ofOne(label: string, unit = ""): OperatorWords {
  return { values: 1, label, said: (value) => `${label} ${String(value)}${unit}` };
}

function ofNothing(label: string): OperatorWords {
  return { values: 0, label, said: () => label };
}

const between: OperatorWords = {
  values: 2,
  label: "is between",
  said: (value) => `is between ${(value as readonly unknown[]).join(" and ")}`,
};

const isOneOf: OperatorWords = {
  values: "many",
  label: "is one of",
  said: (value) => {
    const list = (value as readonly unknown[]).map(String);
    const more = list.length > MOST_LISTED ? ` or ${list.length - MOST_LISTED + 1} others` : "";
    const shown = more ? list.slice(0, MOST_LISTED - 1) : list;
    return `is ${more ? shown.join(", ") + more : listed(shown)}`;
  },
};

export const OPERATOR_WORDS = {
  is: ofOne("is"),
  "is not": ofOne("is not"),
  contains: ofOne("contains"),
  "starts with": ofOne("starts with"),
  "ends with": ofOne("ends with"),
  matches: ofOne("matches"),
  "is empty": ofNothing("is empty"),
  "is filled": ofNothing("is filled"),
  "<": ofOne("is below"),
  "<=": ofOne("is at most"),
  ">": ofOne("is above"),
  ">=": ofOne("is at least"),
  between,
  "longer than": ofOne("is longer than", " characters"),
  "shorter than": ofOne("is shorter than", " characters"),
  "is one of": isOneOf,
  "is under": ofOne("is under"),
} as const satisfies Readonly<Record<string, OperatorWords>>;
export type Operator = keyof typeof OPERATOR_WORDS;

function listed(values: readonly string[]): string {
  return values.length < 2 ? values.join("") : `${values.slice(0, -1).join(", ")} or ${values.at(-1)}`;
}
