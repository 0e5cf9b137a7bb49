/** A number that is saved when it is left, kept as typed while it cannot be. */
export function Amount({
  label,
  value,
  unit,
  onChange,
  min,
  max,
}: {
  label: string;
  value: number;
  unit: string;
  onChange: (value: number) => void;
  min: number;
  max: number;
}) {
  return (
    <label className="flex items-center gap-2">
      <span className="sr-only">{label}</span>
      <input
        type="number"
        key={value}
        defaultValue={value}
        min={min}
        max={max}
        step="any"
        onBlur={(event) => {
          const typed = event.target.valueAsNumber;
          if (Number.isFinite(typed) && typed !== value) onChange(typed);
        }}
        onKeyDown={(event) => event.key === "Enter" && event.currentTarget.blur()}
        className="readout h-11 w-28 rounded-lg border border-edge bg-well px-3 text-right text-ink"
      />
      <span className="text-soft">{unit}</span>
    </label>
  );
}
