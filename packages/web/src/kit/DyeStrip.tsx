/** A look's face: the fixed colours sent through it. */
export function DyeStrip({ strip, height = 10 }: { strip: readonly string[]; height?: number }): React.JSX.Element {
  return (
    <div
      className="dye-strip"
      style={{ height }}
      role="img"
      aria-label="Dye strip: greys, skins, sky, leaf, brick and straw under this look"
    >
      {strip.map((c, i) => (
        <i key={i} style={{ background: c }} />
      ))}
    </div>
  );
}
