/** What to do now, one thing a line. */
export function Steps({ steps }: { steps: readonly string[] }) {
  return (
    <ul className="mb-0 mt-1 list-disc space-y-1 pl-5 text-sm">
      {steps.map((step) => (
        <li key={step}>{step}</li>
      ))}
    </ul>
  );
}
