/** What is known of a thing: terms, and what they come to. */
export function FactLines({
  lines,
  className = "gap-y-1",
}: {
  lines: readonly (readonly [string, string])[];
  className?: string;
}) {
  return (
    <dl className={`grid grid-cols-[auto_1fr] gap-x-3 ${className}`}>
      {lines.map(([term, text]) => (
        <div key={term} className="contents">
          <dt className="text-[0.8125rem] text-soft">{term}</dt>
          <dd className="num text-right">{text}</dd>
        </div>
      ))}
    </dl>
  );
}
