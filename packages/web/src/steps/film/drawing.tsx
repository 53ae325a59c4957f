import { path, type Drawn } from '../drawing.tsx';

export default function Drawing({ n }: Drawn): React.JSX.Element {
  // a negative's curve: toe, straight part, shoulder
  const slope = 1 + n('contrast') / 100;
  return (
    <>
      <path d={path((t) => 0.08 + 0.84 / (1 + Math.exp(-7 * slope * (t - 0.5))))} stroke="#f1f0ef" strokeWidth="1.6" fill="none" />
      <path d={path((t) => 0.04 + 0.84 / (1 + Math.exp(-7 * slope * (t - 0.58))))} stroke="#e0633a" strokeWidth="1" fill="none" />
    </>
  );
}
