import { imagesOf, withAlt, withTag } from "../../core/text/images";

/** A change of what is said of one image. */
interface ImageChange {
  readonly before: string;
  readonly after: string;
  readonly image: { readonly part: number; readonly src: string; readonly tag: string | null } | null;
}

/** A body while what is said of its images is changed; all but those tags stays as it is, byte by byte. */
export class ImageTags {
  isChanged = false;

  constructor(
    /** The body as it is by now. */
    public body: string,
    /** Tags become what they were before the run, where the run made them what they are. */
    private readonly takesBack: boolean,
  ) {}

  /** Why a change cannot be made, `null` where it can. */
  reasonToSkip({ before, image }: ImageChange): string | null {
    const there = imagesOf(this.body)[image!.part - 1];
    if (there?.src !== image!.src) return "The image is no longer at that place of the page";
    if (there.alt === before) return null;
    return `The image description was changed meanwhile; it now reads “${there.alt.slice(0, 80)}”`;
  }

  put({ before, after, image }: ImageChange): void {
    const there = imagesOf(this.body)[image!.part - 1]!;
    const { tag } = image!;
    const isOfRun = this.takesBack && tag !== null && withAlt(tag, before) === there.tag;
    this.body = withTag(this.body, there, isOfRun ? tag : withAlt(there.tag, after));
    this.isChanged = true;
  }
}
