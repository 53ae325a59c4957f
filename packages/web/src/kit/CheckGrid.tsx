import { Checkbox } from '@chakra-ui/react';

/** Things to choose several of, in a grid. */
export function CheckGrid<T extends string>({
  of,
  chosen,
  onChosen,
}: {
  of: readonly { value: T; words: string; /** cannot be chosen otherwise than it is */ fixed?: boolean }[];
  chosen: ReadonlySet<T>;
  onChosen: (chosen: ReadonlySet<T>) => void;
}): React.JSX.Element {
  const switched = (value: T): ReadonlySet<T> => {
    const next = new Set(chosen);
    if (!next.delete(value)) next.add(value);
    return next;
  };
  return (
    <div className="check-grid">
      {of.map(({ value, words, fixed = false }) => (
        <Checkbox.Root key={value} size="sm" checked={chosen.has(value)} disabled={fixed} onCheckedChange={() => onChosen(switched(value))}>
          <Checkbox.HiddenInput />
          <Checkbox.Control />
          <Checkbox.Label>{words}</Checkbox.Label>
        </Checkbox.Root>
      ))}
    </div>
  );
}
