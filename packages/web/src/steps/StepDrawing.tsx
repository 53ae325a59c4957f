import { Suspense } from 'react';
import { defaultsOf, stepKind, type KindName, type LookStep } from '@dyepot/core';
import { H, W } from './drawing.tsx';
import { stepFaces } from './index.ts';

/** A small drawing of what a step does: its curve, its hues, its weights. */
export function StepDrawing({ step }: { step: LookStep }): React.JSX.Element {
  const kind = stepKind(step.kind),
    p = { ...(kind ? defaultsOf(kind) : {}), ...step.params },
    Drawing = kind && stepFaces[kind.kind as KindName].drawing;
  return (
    <svg viewBox={`0 0 ${W} ${H}`} className="step-drawing" aria-hidden="true">
      {Drawing && (
        <Suspense>
          <Drawing step={step} p={p} n={(name) => p[name] as number} />
        </Suspense>
      )}
    </svg>
  );
}
