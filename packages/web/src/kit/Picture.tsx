import { useState } from 'react';

/** A rendered picture that says so while it is being made and when it cannot be. */
export function Picture({ src, alt, className }: { src: string; alt: string; className?: string }): React.JSX.Element {
  const [state, setState] = useState<{ src: string; is: 'ready' | 'failed' } | null>(null);
  const is = state?.src === src ? state.is : 'waiting';
  return (
    <div className={`picture ${is} ${className ?? ''}`}>
      {is === 'failed' ? (
        <span>cannot be shown</span>
      ) : (
        <img
          key={src}
          src={src}
          alt={alt}
          draggable={false}
          onLoad={() => setState({ src, is: 'ready' })}
          onError={() => setState({ src, is: 'failed' })}
        />
      )}
    </div>
  );
}
