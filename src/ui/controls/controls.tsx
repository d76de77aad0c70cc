"use client";
import { Checkbox, Slider, Switch, ToggleGroup, Tooltip } from "radix-ui";
import { type ButtonHTMLAttributes, type ReactNode, useId } from "react";

const TONES = {
  main: "bg-signal text-signal-ink border-signal font-medium hover:brightness-110",
  plain: "bg-sheet text-ink border-line hover:border-rule",
  quiet: "bg-transparent text-ink border-transparent hover:bg-well",
} as const;

export function Button({
  tone = "plain",
  small,
  className = "",
  ...rest
}: ButtonHTMLAttributes<HTMLButtonElement> & { tone?: keyof typeof TONES; small?: boolean }) {
  return (
    <button
      type="button"
      className={`inline-flex items-center justify-center gap-1.5 whitespace-nowrap rounded border disabled:cursor-not-allowed disabled:opacity-45 ${small ? "h-7 px-2" : "h-8 px-3"} ${TONES[tone]} ${className}`}
      {...rest}
    />
  );
}

/** A button with only a sign on it; its name shows on hover and focus. */
export function IconButton({
  label,
  children,
  keys,
  className = "",
  ...rest
}: ButtonHTMLAttributes<HTMLButtonElement> & { label: string; keys?: string }) {
  return (
    <Tooltip.Root>
      <Tooltip.Trigger asChild>
        <button
          type="button"
          aria-label={label}
          className={`inline-flex size-8 shrink-0 items-center justify-center rounded border border-transparent text-ink hover:bg-well disabled:cursor-not-allowed disabled:opacity-40 aria-pressed:border-rule aria-pressed:bg-well ${className}`}
          {...rest}
        >
          {children}
        </button>
      </Tooltip.Trigger>
      <Tooltip.Portal>
        <Tooltip.Content sideOffset={4} className="z-50 rounded bg-ink px-2 py-1 text-[0.8125rem] text-paper">
          {label}
          {keys ? <kbd className="ml-2 font-mono opacity-80">{keys}</kbd> : null}
        </Tooltip.Content>
      </Tooltip.Portal>
    </Tooltip.Root>
  );
}

export interface Option<T extends string> {
  value: T;
  label: string;
  icon?: ReactNode;
}

/** One of a few: all to be seen at once. */
/** Six short words stand in two rows of three. */
const isSix = (options: readonly Option<string>[]) =>
  options.length === 6 && options.every(({ label }) => label.length <= 12);

export function Choice<T extends string>({
  label,
  value,
  options,
  onChange,
  hideLabel,
  small,
  column,
}: {
  label: string;
  value: T;
  options: Option<T>[];
  onChange(value: T): void;
  hideLabel?: boolean;
  small?: boolean;
  /** One under the other. */
  column?: boolean;
}) {
  return (
    <div className="min-w-0">
      {hideLabel ? null : <div className="mb-1 text-[0.8125rem] text-soft">{label}</div>}
      <ToggleGroup.Root
        type="single"
        aria-label={label}
        value={value}
        onValueChange={(next) => next && onChange(next as T)}
        className={`max-w-full ${column ? "inline-flex w-full flex-col" : isSix(options) ? "grid w-full grid-cols-3" : "inline-flex flex-wrap"} gap-px overflow-hidden rounded border border-line bg-line`}
      >
        {options.map((option) => (
          <ToggleGroup.Item
            key={option.value}
            value={option.value}
            className={`inline-flex grow items-center ${column ? "justify-start" : "justify-center"} gap-1 bg-sheet px-2 text-ink hover:bg-well data-[state=on]:bg-ink data-[state=on]:text-paper ${small ? "h-6 text-[0.8125rem]" : "h-7"}`}
          >
            {option.icon}
            {option.label}
          </ToggleGroup.Item>
        ))}
      </ToggleGroup.Root>
    </div>
  );
}

export function Toggle({ label, value, onChange }: { label: string; value: boolean; onChange(value: boolean): void }) {
  const id = useId();
  return (
    <div className="flex items-center justify-between gap-3">
      <label htmlFor={id}>{label}</label>
      <Switch.Root
        id={id}
        checked={value}
        onCheckedChange={onChange}
        className="relative h-5 w-9 shrink-0 rounded-full border border-rule bg-well data-[state=checked]:bg-ink"
      >
        <Switch.Thumb className="block size-3.5 translate-x-0.5 rounded-full bg-rule transition-transform data-[state=checked]:translate-x-[18px] data-[state=checked]:bg-paper" />
      </Switch.Root>
    </div>
  );
}

export function Check({
  label,
  checked,
  onChange,
  children,
}: {
  label?: string;
  checked: boolean;
  onChange(value: boolean): void;
  children?: ReactNode;
}) {
  const id = useId();
  return (
    <div className="flex min-w-0 items-center gap-2">
      <Checkbox.Root
        id={id}
        aria-label={label}
        checked={checked}
        onCheckedChange={(next) => onChange(next === true)}
        className="flex size-[18px] shrink-0 items-center justify-center rounded-sm border border-rule bg-sheet data-[state=checked]:border-ink data-[state=checked]:bg-ink data-[state=checked]:text-paper"
      >
        <Checkbox.Indicator>
          <svg
            width="12"
            height="12"
            viewBox="0 0 12 12"
            fill="none"
            stroke="currentColor"
            strokeWidth="2"
            aria-hidden="true"
          >
            <path d="m2 6.5 2.6 2.6L10 3" />
          </svg>
        </Checkbox.Indicator>
      </Checkbox.Root>
      <label htmlFor={id} className="min-w-0 grow truncate">
        {children}
      </label>
    </div>
  );
}

export function Range({
  label,
  value,
  onChange,
  className = "",
  disabled,
}: {
  label: string;
  value: number;
  onChange(value: number): void;
  className?: string;
  disabled?: boolean;
}) {
  return (
    <Slider.Root
      value={[value]}
      min={0}
      max={1}
      step={0.01}
      disabled={disabled}
      onValueChange={([next]) => onChange(next!)}
      className={`relative flex h-6 touch-none items-center select-none data-[disabled]:opacity-40 ${className}`}
    >
      <Slider.Track className="relative h-1 grow rounded bg-line">
        <Slider.Range className="absolute h-full rounded bg-rule" />
      </Slider.Track>
      <Slider.Thumb aria-label={label} className="block h-5 w-2.5 rounded-sm border border-ink bg-sheet" />
    </Slider.Root>
  );
}
