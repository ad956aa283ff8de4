import { siteId } from "./site-path";

/** The part of a browser's store that is one site's: what is kept of one is never found on another. */
export class SiteStorage implements Storage {
  private readonly prefix: string;

  constructor(
    private readonly storage: Storage,
    site: string,
  ) {
    this.prefix = `${site}: `;
  }

  private names(): string[] {
    return Array.from({ length: this.storage.length }, (_, i) => this.storage.key(i)!)
      .filter((name) => name.startsWith(this.prefix))
      .map((name) => name.slice(this.prefix.length));
  }

  get length(): number {
    return this.names().length;
  }

  key(index: number): string | null {
    return this.names()[index] ?? null;
  }

  getItem(name: string): string | null {
    return this.storage.getItem(this.prefix + name);
  }

  setItem(name: string, value: string): void {
    this.storage.setItem(this.prefix + name, value);
  }

  removeItem(name: string): void {
    this.storage.removeItem(this.prefix + name);
  }

  clear(): void {
    for (const name of this.names()) this.removeItem(name);
  }
}

/** The browser's store for the site in this window; `null` on the server, and where the browser gives none. */
export function browserStorage(): Storage | null {
  try {
    return typeof window === "undefined" ? null : new SiteStorage(window.localStorage, siteId());
  } catch {
    return null;
  }
}
