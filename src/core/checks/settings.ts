import { type Checks } from "./schema";
import { FINDINGS, findingBit, type FindingId, type Subject } from "./findings";

/** The name of a finding among those that are switched off. */
export function checkName(subject: Subject, id: FindingId): string {
  return `${subject} ${id}`;
}

/** The bits of the findings about something that are switched on. */
export function switchedOn(checks: Checks, subject: Subject): number {
  let bits = 0;
  for (const { id } of FINDINGS[subject])
    if (!checks.off.includes(checkName(subject, id))) bits |= findingBit(subject, id);
  return bits;
}
