import { Command } from "cmdk";
import { ChevronDown } from "lucide-react";
import { Popover } from "radix-ui";
import { useId, useState } from "react";
import { messages } from "../messages";

/** One thing that can be chosen; `group` is the heading it stands under. */
export interface Option<T extends string> {
  readonly value: T;
  readonly label: string;
  readonly group?: string;
}

interface Props<T extends string> {
  readonly label: string;
  readonly value: T;
  readonly options: readonly Option<T>[];
  readonly onChange: (value: T) => void;
  /** What stands there when the value is none of the options. */
  readonly placeholder?: string;
}

/** A list that is searched by typing a few letters. */
export function Combo<T extends string>({ label, value, options, onChange, placeholder = "" }: Props<T>) {
  const [open, setOpen] = useState(false);
  const id = useId();
  const chosen = options.find((option) => option.value === value);
  const groups = [...new Set(options.map(({ group }) => group))];
  return (
    <div className="grid min-w-0 gap-1">
      <span id={id} className="text-sm text-soft">
        {label}
      </span>
      <Popover.Root open={open} onOpenChange={setOpen}>
        <Popover.Trigger
          role="combobox"
          aria-expanded={open}
          aria-labelledby={`${id} ${id}-value`}
          className="flex min-h-11 w-full items-center justify-between gap-2 rounded-lg border border-edge bg-well px-3 py-2 text-left text-ink"
        >
          <span id={`${id}-value`} className="min-w-0 break-words">
            {chosen?.label ?? placeholder}
          </span>
          <ChevronDown size={18} className="shrink-0 text-soft" aria-hidden="true" />
        </Popover.Trigger>
        <Popover.Portal>
          <Popover.Content
            align="start"
            sideOffset={4}
            aria-label={label}
            className="z-50 w-[max(var(--radix-popover-trigger-width),15rem)] max-w-[calc(100vw-1.5rem)] rounded-xl border border-line bg-panel p-1.5 shadow-2xl"
          >
            <Command label={label} {...(chosen === undefined ? {} : { defaultValue: keyOf(chosen) })}>
              <Command.Input placeholder={messages.palette.search} className="h-11 w-full rounded-lg border border-edge bg-well px-3 text-ink" />
              <Command.List className="mt-1.5 max-h-72 overflow-y-auto">
                <Command.Empty className="px-3 py-3 text-soft">{messages.palette.nothing}</Command.Empty>
                {groups.map((group) => (
                  <Command.Group
                    key={group ?? ""}
                    heading={group}
                    className="[&_[cmdk-group-heading]]:px-3 [&_[cmdk-group-heading]]:py-1 [&_[cmdk-group-heading]]:text-sm [&_[cmdk-group-heading]]:text-soft"
                  >
                    {options
                      .filter((option) => option.group === group)
                      .map((option) => (
                        <Command.Item
                          key={option.value}
                          value={keyOf(option)}
                          onSelect={() => {
                            setOpen(false);
                            onChange(option.value);
                          }}
                          className={`flex min-h-11 cursor-pointer items-center rounded-lg px-3 py-1.5 data-[selected=true]:bg-well data-[selected=true]:outline data-[selected=true]:outline-lamp ${option.value === value ? "font-bold" : ""}`}
                        >
                          {option.label}
                        </Command.Item>
                      ))}
                  </Command.Group>
                ))}
              </Command.List>
            </Command>
          </Popover.Content>
        </Popover.Portal>
      </Popover.Root>
    </div>
  );
}

/** What an option is found by: its words, told apart by its value. */
function keyOf({ value, label, group = "" }: Option<string>): string {
  return `${label} ${group} ${value}`;
}
