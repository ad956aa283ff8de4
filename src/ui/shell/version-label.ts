import type { Version } from "../../store/versions";

/** What a version is called. @example versionLabel(version) // "Run 3: shorter titles (undone)" */
export function versionLabel({ name, isUndone }: Version): string {
  return isUndone ? `${name} (undone)` : name;
}
