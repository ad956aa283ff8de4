/** Does something that may take long with whole sites, says meanwhile what it is, and shows the list as it is then. */
export type Doing = (words: string, work: () => Promise<unknown>) => Promise<void>;
