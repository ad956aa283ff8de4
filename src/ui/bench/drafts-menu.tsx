"use client";
import { useRouter } from "../shell/site-path";
import { DropdownMenu, Popover } from "radix-ui";
import { useState } from "react";
import { toast } from "sonner";
import { type Kind } from "../../core/design/kinds";
import type { NamedDraft } from "../../store/named-drafts";
import { call } from "../shell/api";
import { BAR_ACTION, PLAIN_ACTION } from "../shell/actions";
import { ago } from "../shell/format";
import { useAfterMenu } from "../shell/after-menu";
import { MenuItem } from "../shell/menu-item";
import { useKindWord } from "../shell/site-context";

/** Drafts under names: put the present one aside, or go and compare. */
export function DraftsMenu({ kind }: { kind: Kind }) {
  const kindWord = useKindWord();
  const [named, setNamed] = useState<readonly NamedDraft[] | null>(null);
  const [naming, setNaming] = useState(false);
  const { afterMenu, onCloseAutoFocus } = useAfterMenu();
  const router = useRouter();
  const load = () => {
    call("designs.named", { kind })
      .then(setNamed)
      .catch(() => setNamed([]));
  };
  return (
    <Popover.Root open={naming} onOpenChange={setNaming}>
      <Popover.Anchor className="contents">
        <DropdownMenu.Root onOpenChange={(open) => open && load()}>
          <DropdownMenu.Trigger className={BAR_ACTION}>Drafts</DropdownMenu.Trigger>
          <DropdownMenu.Portal>
            <DropdownMenu.Content
              onCloseAutoFocus={onCloseAutoFocus}
              align="end"
              sideOffset={6}
              className="z-40 max-h-[70vh] min-w-64 overflow-auto rounded-sm border border-key bg-sheet py-1 text-key shadow-[4px_4px_0_rgb(20_33_42/0.18)]"
            >
              <MenuItem label="Put this draft aside under a name" onSelect={() => afterMenu(() => setNaming(true))} />
              <MenuItem label="Compare drafts" onSelect={() => router.push(`/compare?kind=${kind}`)} />
              <DropdownMenu.Separator className="my-1 border-t border-hair" />
              <DropdownMenu.Label className="px-3 py-0.5 text-[12px] text-soft">
                {named === null
                  ? "Looking …"
                  : named.length === 0
                    ? `No other drafts for ${kindWord(kind, 2)} yet`
                    : "Compare the draft with"}
              </DropdownMenu.Label>
              {named?.map((draft) => (
                <MenuItem
                  key={draft.id}
                  label={draft.name}
                  hint={ago(draft.savedAt)}
                  onSelect={() => router.push(`/compare?kind=${kind}&a=draft&b=${draft.id}`)}
                />
              ))}
            </DropdownMenu.Content>
          </DropdownMenu.Portal>
        </DropdownMenu.Root>
      </Popover.Anchor>
      <Popover.Portal>
        <Popover.Content
          align="end"
          sideOffset={6}
          className="z-40 w-72 rounded-sm border border-key bg-sheet p-3 shadow-[4px_4px_0_rgb(20_33_42/0.18)]"
        >
          <form
            onSubmit={(event) => {
              event.preventDefault();
              const name = String(new FormData(event.currentTarget).get("name"));
              call("designs.putAside", { kind, name })
                .then((draft) => {
                  setNaming(false);
                  toast(`Put aside as “${draft.name}”`, {
                    action: {
                      label: "Compare",
                      onClick: () => router.push(`/compare?kind=${kind}&a=draft&b=${draft.id}`),
                    },
                  });
                })
                .catch((error: unknown) => toast.error(error instanceof Error ? error.message : String(error)));
            }}
          >
            <label className="block">
              <span className="text-[12px] text-soft">Name of the draft</span>
              <input
                name="name"
                required
                maxLength={100}
                autoFocus
                placeholder="such as: shorter, with finish"
                className="block w-full rounded-sm border border-hair bg-sheet px-2 py-1"
              />
            </label>
            <button type="submit" className={`${PLAIN_ACTION} mt-2`}>
              Put aside
            </button>
          </form>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
