"use client";
import { useRouter } from "../shell/site-path";
import { DropdownMenu, Popover } from "radix-ui";
import { useState } from "react";
import { toast } from "sonner";
import { type KindDesign } from "../../core/design/design";
import { type Kind } from "../../core/design/kinds";
import type { Version } from "../../store/versions";
import { call, wordsOf } from "../shell/api";
import { sayFailure } from "../shell/say-failure";
import { BAR_ACTION, PLAIN_ACTION } from "../shell/actions";
import { ago } from "../shell/format";
import { useAfterMenu } from "../shell/after-menu";
import { MenuItem } from "../shell/menu-item";
import { useKindWord, useSite } from "../shell/site-context";
import { versionLabel } from "../shell/version-label";

interface KnownVersions {
  readonly kind: Kind;
  readonly versions: readonly Version[];
  /** Why they could not be had. */
  readonly error: string | null;
}

/** The versions of a kind: save the draft as one, compare it with another. */
export function VersionsMenu({ kind, design }: { kind: Kind; design: KindDesign }) {
  const kindWord = useKindWord();
  const { refresh } = useSite();
  const [known, setKnown] = useState<KnownVersions | null>(null);
  const [naming, setNaming] = useState(false);
  const { afterMenu, onCloseAutoFocus } = useAfterMenu();
  const router = useRouter();
  // Those of another kind are none of this one’s.
  const shown = known?.kind === kind ? known : null;
  const load = () => {
    call("designs.versions", { kind })
      .then((versions) => setKnown({ kind, versions, error: null }))
      .catch((error: unknown) => setKnown({ kind, versions: [], error: wordsOf(error) }));
  };
  return (
    <Popover.Root open={naming} onOpenChange={setNaming}>
      <Popover.Anchor className="contents">
        <DropdownMenu.Root onOpenChange={(open) => open && load()}>
          <DropdownMenu.Trigger className={BAR_ACTION}>Versions</DropdownMenu.Trigger>
          <DropdownMenu.Portal>
            <DropdownMenu.Content
              onCloseAutoFocus={onCloseAutoFocus}
              align="end"
              sideOffset={6}
              className="z-40 max-h-[70vh] min-w-64 overflow-auto rounded-sm border border-key bg-sheet py-1 text-key shadow-[4px_4px_0_rgb(20_33_42/0.18)]"
            >
              <MenuItem label="Save as a version …" onSelect={() => afterMenu(() => setNaming(true))} />
              <MenuItem label="Compare with live" onSelect={() => router.push(`/compare?kind=${kind}`)} />
              <DropdownMenu.Separator className="my-1 border-t border-hair" />
              <DropdownMenu.Label className="px-3 py-0.5 text-[12px] text-soft">
                {headingOf(shown, kindWord(kind, 2))}
              </DropdownMenu.Label>
              {shown?.versions.map((version) => (
                <MenuItem
                  key={version.id}
                  label={versionLabel(version)}
                  hint={ago(version.savedAt)}
                  onSelect={() => router.push(`/compare?kind=${kind}&a=${version.id}&b=draft`)}
                />
              ))}
            </DropdownMenu.Content>
          </DropdownMenu.Portal>
        </DropdownMenu.Root>
      </Popover.Anchor>
      <Popover.Portal>
        <Popover.Content
          aria-label="Save a version"
          align="end"
          sideOffset={6}
          className="z-40 w-72 rounded-sm border border-key bg-sheet p-3 shadow-[4px_4px_0_rgb(20_33_42/0.18)]"
        >
          <form
            onSubmit={(event) => {
              event.preventDefault();
              const name = String(new FormData(event.currentTarget).get("name"));
              call("designs.saveVersion", { kind, name, design })
                .then(async (version) => {
                  setNaming(false);
                  await refresh().catch(() => {});
                  toast(`Saved as version “${version.name}”`, {
                    action: {
                      label: "Compare",
                      onClick: () => router.push(`/compare?kind=${kind}&a=${version.id}&b=draft`),
                    },
                  });
                })
                .catch(sayFailure);
            }}
          >
            <label className="block">
              <span className="text-[12px] text-soft">Name of the version</span>
              <input
                name="name"
                required
                maxLength={100}
                autoFocus
                placeholder="such as: shorter, with finish"
                className="block w-full rounded-sm border border-edge bg-sheet px-2 py-1"
              />
            </label>
            <button type="submit" className={`${PLAIN_ACTION} mt-2`}>
              Save
            </button>
          </form>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

function headingOf(known: KnownVersions | null, pages: string): string {
  if (known === null) return "Loading …";
  if (known.error !== null) return known.error;
  return known.versions.length === 0 ? `No versions for ${pages} yet; every run saves one` : "Compare the draft with";
}
