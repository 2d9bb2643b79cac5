'use client';

import { clsx } from 'clsx';
import dynamic from 'next/dynamic';
import { CalendarDays } from 'lucide-react';
import { Popover } from 'radix-ui';
import { type ReactNode, useState } from 'react';
import type { DateRange, DayPickerProps } from 'react-day-picker';
import { dayFrom, timeFrom } from '@/core/hours/daytext';
import { Button } from './button';
import { CONTROL } from './control';
import { asDay } from './figures';

/** The calendar comes when it is opened: days are mostly typed. */
const DayPicker = dynamic<DayPickerProps>(() => import('react-day-picker').then((m) => m.DayPicker), {
  ssr: false,
  loading: () => <p className="p-6 text-small text-ink-2">Opening the calendar…</p>,
});

type Named = {
  readonly id?: string | undefined;
  readonly disabled?: boolean | undefined;
  readonly className?: string | undefined;
  readonly required?: boolean | undefined;
  /** Small, within a line. */
  readonly compact?: boolean | undefined;
  readonly 'aria-label'?: string | undefined;
  readonly 'aria-invalid'?: boolean | undefined;
  readonly 'aria-describedby'?: string | undefined;
};

/** A calendar day as the browser's own Date at noon, so that no zone moves it; and back. */
const dateOf = (day: string): Date | undefined => (day === '' ? undefined : new Date(`${day}T12:00:00`));
const dayOf = (at: Date): string =>
  [at.getFullYear(), at.getMonth() + 1, at.getDate()].map((n) => String(n).padStart(2, '0')).join('-');

const DAYS = {
  months: 'relative flex gap-4',
  month_caption: 'mb-1 h-7 text-center font-display text-base font-semibold',
  nav: 'absolute inset-x-0 top-0 flex justify-between',
  button_previous: 'rounded-control p-1 hover:bg-sunk',
  button_next: 'rounded-control p-1 hover:bg-sunk',
  chevron: 'size-4 fill-ink-2',
  weekday: 'size-8 text-tiny font-normal text-ink-3',
  day: 'size-8 p-0 text-center text-small',
  day_button: 'size-8 rounded-control hover:bg-sunk',
  today: 'font-semibold text-plum',
  selected: '[&>button]:bg-plum [&>button]:text-sheet',
  range_middle: '!rounded-none [&>button]:!bg-plum-wash [&>button]:!text-ink',
  outside: 'text-ink-3 opacity-50',
  disabled: 'opacity-40',
};
const Floating = ({ children }: { children: ReactNode }) => (
  <Popover.Portal>
    <Popover.Content
      align="end"
      sideOffset={4}
      className="z-50 rounded-panel border border-rule-strong bg-sheet p-2 text-ink shadow-lg"
    >
      {children}
    </Popover.Content>
  </Popover.Portal>
);

/**
 * Text that means something: it is taken as it is typed once it can be read, written out properly on leaving, and put
 * back to what counts when it cannot.
 */
function Typed({
  value,
  read,
  write,
  onChange,
  className,
  compact = false,
  ...rest
}: Named & {
  value: string;
  read: (text: string) => string | null;
  write: (value: string) => string;
  onChange: (value: string) => void;
  placeholder: string;
  inputMode?: 'numeric';
}) {
  const [typing, setTyping] = useState<string | null>(null);
  const wrong = typing !== null && typing.trim() !== '' && read(typing) === null;
  return (
    <input
      {...rest}
      type="text"
      autoComplete="off"
      aria-invalid={rest['aria-invalid'] || wrong}
      className={clsx(CONTROL, compact && '!px-1.5 !py-0.5', className)}
      value={typing ?? write(value)}
      onChange={(e) => {
        const text = e.target.value;
        setTyping(text);
        const meant = text.trim() === '' ? '' : read(text);
        if (meant !== null && meant !== value) onChange(meant);
      }}
      onBlur={() => setTyping(null)}
    />
  );
}

/** A day, `YYYY-MM-DD` or empty: typed in any usual way, or chosen from a calendar. */
export function DateField({
  value,
  onChange,
  className,
  ...rest
}: Named & { value: string; onChange: (day: string) => void }) {
  const [open, setOpen] = useState(false);
  return (
    <span className={clsx('relative inline-block w-full', className)}>
      <Typed
        {...rest}
        value={value}
        read={dayFrom}
        write={asDay}
        onChange={onChange}
        placeholder="day month year"
        className="pr-8"
      />
      <Popover.Root open={open} onOpenChange={setOpen}>
        <Popover.Trigger
          type="button"
          disabled={rest.disabled}
          aria-label="Choose from a calendar"
          className="absolute inset-y-0 right-0 px-2 text-ink-3 hover:text-ink disabled:opacity-60"
        >
          <CalendarDays aria-hidden size={15} />
        </Popover.Trigger>
        <Floating>
          <DayPicker
            mode="single"
            autoFocus
            weekStartsOn={1}
            classNames={DAYS}
            selected={dateOf(value)}
            {...(value ? { defaultMonth: dateOf(value) as Date } : {})}
            onSelect={(at) => {
              if (at) onChange(dayOf(at));
              setOpen(false);
            }}
          />
        </Floating>
      </Popover.Root>
    </span>
  );
}

/** A time of day, `HH:MM` or empty, typed in any usual way. */
export const TimeField = ({
  value,
  onChange,
  className,
  ...rest
}: Named & { value: string; onChange: (time: string) => void }) => (
  <Typed
    {...rest}
    value={value}
    read={timeFrom}
    write={(time) => time}
    onChange={onChange}
    placeholder="hh:mm"
    inputMode="numeric"
    className={clsx('!w-16 tabular-nums', className)}
  />
);

/** A day with a time, `YYYY-MM-DDTHH:MM` or empty while either is missing. */
export function DateTimeField({
  id,
  value,
  onChange,
  label,
  disabled,
}: {
  id?: string;
  value: string;
  onChange: (at: string) => void;
  label: string;
  disabled?: boolean;
}) {
  const [day = '', time = ''] = value.split('T');
  const [half, setHalf] = useState({ day, time });
  const put = (next: { day: string; time: string }) => {
    setHalf(next);
    onChange(next.day && next.time ? `${next.day}T${next.time}` : '');
  };
  return (
    <span className="flex gap-1.5">
      <DateField
        {...(id ? { id } : {})}
        aria-label={`${label}: day`}
        disabled={disabled}
        className="!w-40"
        value={day || half.day}
        onChange={(d) => put({ day: d, time: time.slice(0, 5) || half.time })}
      />
      <TimeField
        aria-label={`${label}: time`}
        disabled={disabled}
        value={time.slice(0, 5) || half.time}
        onChange={(t) => put({ day: day || half.day, time: t })}
      />
    </span>
  );
}

/** Days from and to, each `YYYY-MM-DD` or empty, with ready-made ranges. */
export function RangeField({
  from,
  to,
  onChange,
  presets,
  label,
}: {
  from: string;
  to: string;
  onChange: (range: { from: string; to: string }) => void;
  presets: readonly { readonly name: string; readonly from: string; readonly to: string }[];
  label: string;
}) {
  const [open, setOpen] = useState(false);
  // While the second day is still to be chosen nothing is asked for.
  const [begun, setBegun] = useState<DateRange | undefined>(undefined);
  const put = (range: { from: string; to: string }) => {
    setOpen(false);
    setBegun(undefined);
    onChange(range);
  };
  /** A range typed back to front is meant the other way round. */
  const typed = (a: string, b: string) => onChange(a && b && a > b ? { from: b, to: a } : { from: a, to: b });
  return (
    <span className="inline-flex items-center gap-1.5">
      <Typed
        aria-label={`${label}: from`}
        value={from}
        read={dayFrom}
        write={asDay}
        onChange={(day) => typed(day, to)}
        placeholder="from"
        className="!w-32"
      />
      <span aria-hidden className="text-ink-3">
        –
      </span>
      <Typed
        aria-label={`${label}: to`}
        value={to}
        read={dayFrom}
        write={asDay}
        onChange={(day) => typed(from, day)}
        placeholder="to"
        className="!w-32"
      />
      <Popover.Root
        open={open}
        onOpenChange={(is) => {
          setOpen(is);
          setBegun(undefined);
        }}
      >
        <Popover.Trigger asChild>
          <Button small aria-label={`${label}: choose from a calendar`}>
            <CalendarDays aria-hidden size={15} />
          </Button>
        </Popover.Trigger>
        <Floating>
          <div className="flex gap-3">
            <div className="flex w-32 flex-col gap-1 border-r border-rule pr-2">
              {presets.map((p) => (
                <Button
                  key={p.name}
                  small
                  kind={p.from === from && p.to === to ? 'primary' : 'quiet'}
                  className="justify-start"
                  onClick={() => put(p)}
                >
                  {p.name}
                </Button>
              ))}
            </div>
            <DayPicker
              mode="range"
              autoFocus
              weekStartsOn={1}
              numberOfMonths={2}
              classNames={DAYS}
              resetOnSelect
              selected={begun ?? { from: dateOf(from), to: dateOf(to) }}
              {...(from ? { defaultMonth: dateOf(from) as Date } : {})}
              onSelect={(range, day) => {
                if (begun?.from && range?.from && range.to) put({ from: dayOf(range.from), to: dayOf(range.to) });
                else setBegun({ from: day, to: undefined });
              }}
            />
          </div>
        </Floating>
      </Popover.Root>
    </span>
  );
}
