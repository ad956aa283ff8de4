import { linkTagsOf, withHref } from "../../core/links/body-links";
import { imagesOf, withAlt, withTag } from "../../core/text/images";

/** A change of one tag of a body: what is said of an image, or where a link leads. */
interface TagChange {
  readonly text: string;
  readonly before: string;
  readonly after: string;
  readonly tag: {
    /** Which of the body’s images, or of its links, it is, from 1. */
    readonly part: number;
    /** The image’s address. */
    readonly src: string;
    /** As it was before the run. */
    readonly original: string | null;
  } | null;
}

/** Where a tag of a body stands, and what of it a run may change. */
interface FoundTag {
  from: number;
  to: number;
  tag: string;
  reads: string;
  readonly src: string;
}

/** A body while its tags are changed; all but what a change is of stays as it is, byte by byte. */
export class BodyTags {
  isChanged = false;

  constructor(
    /** The body as it is by now. */
    public body: string,
    /** Tags become what they were before the run, where the run made them what they are. */
    private readonly takesBack: boolean,
  ) {}

  /** Whether a change is of a body’s tag. */
  static isOf({ text }: Pick<TagChange, "text">): boolean {
    return text === "alt" || text === "body";
  }

  /** Why a change cannot be made, `null` where it can. */
  reasonToSkip(change: TagChange): string | null {
    const there = this.find(change);
    if (change.text === "body") {
      if (!there) return "The link is no longer at that place of the page";
      return there.reads === change.before
        ? null
        : `The link was changed meanwhile; it now leads to ${cut(there.reads)}`;
    }
    if (!there) return "The image is no longer at that place of the page";
    return there.reads === change.before
      ? null
      : `The image description was changed meanwhile; it now reads “${cut(there.reads)}”`;
  }

  put(change: TagChange): void {
    const there = this.find(change)!;
    const original = change.tag!.original;
    const isOfRun = this.takesBack && original !== null && written(change.text, original, change.before) === there.tag;
    const tag = isOfRun ? original : written(change.text, there.tag, change.after);
    this.body = withTag(this.body, there, tag);
    this.shift(there, tag.length - there.tag.length);
    Object.assign(there, { tag, reads: change.after });
    this.isChanged = true;
  }

  private find({ text, tag }: TagChange): FoundTag | null {
    const { part, src } = tag!;
    if (text === "body") return this.links[part - 1] ?? null;
    const image = this.images[part - 1];
    return image?.src === src ? image : null;
  }

  /** What stands behind a tag that became longer stands so much further on. */
  private shift(tag: FoundTag, by: number): void {
    for (const own of [...(this.heldLinks ?? []), ...(this.heldImages ?? [])]) {
      if (own.from > tag.from) own.from += by;
      if (own.from >= tag.from) own.to += by;
    }
  }

  private heldLinks: FoundTag[] | null = null;
  private heldImages: FoundTag[] | null = null;

  private get links(): readonly FoundTag[] {
    return (this.heldLinks ??= linkTagsOf(this.body).map(({ href, from, to }) => ({
      ...{ from, to, src: "" },
      tag: this.body.slice(from, to),
      reads: href,
    })));
  }

  private get images(): readonly FoundTag[] {
    return (this.heldImages ??= imagesOf(this.body).map(({ from, to, tag, alt, src }) => ({
      ...{ from, to, tag, src },
      reads: alt,
    })));
  }
}

/** A tag that says something else. */
function written(text: string, tag: string, value: string): string {
  return text === "body" ? withHref(tag, { from: 0, to: tag.length }, value) : withAlt(tag, value);
}

function cut(text: string): string {
  return text.slice(0, 80);
}
