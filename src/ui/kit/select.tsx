'use client';

import { clsx } from 'clsx';
import { Command } from 'cmdk';
import { Check, ChevronDown } from 'lucide-react';
import { Popover, Select as Radix } from 'radix-ui';
import { Children, isValidElement, type ComponentProps, type ReactElement, type ReactNode, useState } from 'react';
import { CONTROL } from './control';

type Item = {
  readonly value: string;
  readonly label: ReactNode;
  readonly text: string;
  readonly disabled: boolean;
  readonly group: string | null;
};

/** Lists longer than this are searched rather than walked through. */
const SEARCHED_FROM = 12;
/** Radix keeps the empty value for "nothing chosen"; ours is a choice like any other. */
const EMPTY = '\u0000';
const FLOATS = 'z-50 overflow-hidden rounded-control border border-rule-strong bg-sheet text-base text-ink shadow-lg';
const ROW = 'flex cursor-default items-center gap-2 rounded px-2 py-1 text-base outline-none select-none';

const textOf = (node: ReactNode): string =>
  typeof node === 'string' || typeof node === 'number'
    ? String(node)
    : Array.isArray(node)
      ? node.map(textOf).join('')
      : isValidElement<{ children?: ReactNode }>(node)
        ? textOf(node.props.children)
        : '';

type OptionElement = ReactElement<ComponentProps<'option'>>;
/** `<option>` and `<optgroup>` as data: what can be chosen, in order. */
function itemsOf(children: ReactNode, group: string | null = null): Item[] {
  return Children.toArray(children).flatMap((child): Item[] => {
    if (!isValidElement(child)) return [];
    if (child.type === 'optgroup') {
      const { label, children: inner } = (child as ReactElement<ComponentProps<'optgroup'>>).props;
      return itemsOf(inner, label ?? null);
    }
    const { value, children: label, disabled } = (child as OptionElement).props;
    const text = textOf(label);
    return [{ value: String(value ?? text), label, text, disabled: disabled ?? false, group }];
  });
}

type Given = {
  readonly value: string | number;
  readonly onChange: (value: string) => void;
  /** `<option>`s, in groups or not. */
  readonly children: ReactNode;
  readonly id?: string | undefined;
  readonly className?: string | undefined;
  /** Small, and no wider than what it says: within a line or a bar. */
  readonly compact?: boolean | undefined;
  readonly disabled?: boolean | undefined;
  readonly title?: string | undefined;
  readonly autoFocus?: boolean | undefined;
  readonly 'aria-label'?: string | undefined;
  readonly 'aria-invalid'?: boolean | undefined;
  readonly 'aria-describedby'?: string | undefined;
};

/**
 * Chooses one of a list. Arrows only move within the open list, Enter chooses; a list that can be long is searched by
 * typing. What choosing leads to is the caller's, and never more than choosing.
 */
export function Select({ children, value, onChange, className, compact = false, ...rest }: Given) {
  const items = itemsOf(children);
  const chosen = items.find((i) => i.value === String(value));
  const props = {
    ...rest,
    className: clsx(
      CONTROL,
      'items-center justify-between gap-1 text-left',
      compact ? '!inline-flex !w-auto max-w-56 !px-2 !py-0.5 !text-small' : 'flex',
      className,
    ),
  };
  const shown = <span className="min-w-0 truncate">{chosen?.label ?? '\u00a0'}</span>;
  return items.length > SEARCHED_FROM ? (
    <Searched items={items} value={String(value)} onChange={onChange} trigger={props} shown={shown} />
  ) : (
    <Listed items={items} value={String(value)} onChange={onChange} trigger={props} shown={shown} />
  );
}

type Parts = {
  readonly items: readonly Item[];
  readonly value: string;
  readonly onChange: (value: string) => void;
  readonly trigger: ComponentProps<'button'>;
  readonly shown: ReactNode;
};
const Mark = () => <ChevronDown aria-hidden size={14} className="shrink-0 text-ink-3" />;
const groupsOf = (items: readonly Item[]) => [...new Set(items.map((i) => i.group))];

function Listed({ items, value, onChange, trigger, shown }: Parts) {
  return (
    <Radix.Root
      value={value === '' ? EMPTY : value}
      onValueChange={(v) => onChange(v === EMPTY ? '' : v)}
      disabled={trigger.disabled ?? false}
    >
      <Radix.Trigger {...trigger}>
        <Radix.Value asChild>{shown}</Radix.Value>
        <Mark />
      </Radix.Trigger>
      <Radix.Portal>
        <Radix.Content
          position="popper"
          sideOffset={4}
          className={clsx(
            FLOATS,
            'max-h-(--radix-select-content-available-height) min-w-(--radix-select-trigger-width)',
          )}
        >
          <Radix.Viewport className="p-1">
            {groupsOf(items).map((group) => (
              <Radix.Group key={group ?? ''}>
                {group && <Radix.Label className="px-2 pt-1.5 text-tiny text-ink-3">{group}</Radix.Label>}
                {items
                  .filter((i) => i.group === group)
                  .map((i) => (
                    <Radix.Item
                      key={i.value}
                      value={i.value === '' ? EMPTY : i.value}
                      data-choice={i.value}
                      textValue={i.text}
                      disabled={i.disabled}
                      className={clsx(ROW, 'data-[disabled]:opacity-50 data-[highlighted]:bg-chosen')}
                    >
                      <span className="w-3.5 shrink-0">
                        <Radix.ItemIndicator>
                          <Check aria-hidden size={14} />
                        </Radix.ItemIndicator>
                      </span>
                      <Radix.ItemText>{i.label}</Radix.ItemText>
                    </Radix.Item>
                  ))}
              </Radix.Group>
            ))}
          </Radix.Viewport>
        </Radix.Content>
      </Radix.Portal>
    </Radix.Root>
  );
}

function Searched({ items, value, onChange, trigger, shown }: Parts) {
  const [open, setOpen] = useState(false);
  const choose = (chosen: string) => {
    setOpen(false);
    onChange(chosen);
  };
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      <Popover.Trigger
        {...trigger}
        type="button"
        role="combobox"
        aria-expanded={open}
        onKeyDown={(e) => {
          if (e.key !== 'ArrowDown' && e.key !== 'ArrowUp') return;
          e.preventDefault();
          setOpen(true);
        }}
      >
        {shown}
        <Mark />
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content align="start" sideOffset={4} className={clsx(FLOATS, 'min-w-(--radix-popover-trigger-width)')}>
          <Command
            label="Search the list"
            defaultValue={`${items.findIndex((i) => i.value === value)}`}
            filter={(key, search) => (items[Number(key)]?.text.toLowerCase().includes(search.toLowerCase()) ? 1 : 0)}
          >
            <Command.Input
              autoFocus
              placeholder="Search"
              className="w-full border-b border-rule bg-sheet px-2.5 py-1.5 text-base !shadow-none !outline-none"
            />
            <Command.List className="max-h-72 overflow-y-auto p-1">
              <Command.Empty className="px-2 py-1 text-small text-ink-2">Nothing is called that.</Command.Empty>
              {groupsOf(items).map((group) => (
                <Command.Group
                  key={group ?? ''}
                  {...(group === null ? {} : { heading: group })}
                  className={clsx(
                    '**:[[cmdk-group-heading]]:px-2 **:[[cmdk-group-heading]]:pt-1.5',
                    '**:[[cmdk-group-heading]]:text-tiny **:[[cmdk-group-heading]]:text-ink-3',
                  )}
                >
                  {items.map((i, at) =>
                    i.group !== group ? null : (
                      <Command.Item
                        key={i.value}
                        value={`${at}`}
                        data-choice={i.value}
                        disabled={i.disabled}
                        onSelect={() => choose(i.value)}
                        className={clsx(ROW, 'data-[disabled=true]:opacity-50 data-[selected=true]:bg-chosen')}
                      >
                        <span className="w-3.5 shrink-0">{i.value === value && <Check aria-hidden size={14} />}</span>
                        {i.label}
                      </Command.Item>
                    ),
                  )}
                </Command.Group>
              ))}
            </Command.List>
          </Command>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

type Named = { readonly id: string; readonly name: string };
/** Things with a name, or plain values with how each is called, as choices. */
export const options = <Value extends string | number>(
  things: readonly (Value | Named)[],
  nameOf: (value: Value) => ReactNode = (value) => value,
) =>
  things.map((thing) => {
    const { id, name } = typeof thing === 'object' ? thing : { id: thing, name: nameOf(thing) };
    return (
      <option key={id} value={id}>
        {name}
      </option>
    );
  });
