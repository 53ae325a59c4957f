import { Button } from '@chakra-ui/react';
import { useState } from 'react';
import { Link } from 'react-router';
import { messageOf, useApplyLookMutation } from '../api.ts';
import { DyeStrip } from '../kit/DyeStrip.tsx';
import { complain, tell } from '../kit/notices.tsx';
import { Picture } from '../kit/Picture.tsx';
import { pictureUrl } from '../pictures.ts';
import { ChangeSheet } from '../shoots/ChangeSheet.tsx';
import type { LookCard, Shoot } from '../types.ts';

/** The look that is pointed at, large on the shoot's lead frame; worn by the shoot after what will change was seen. */
export function LargeLook({ look, shoot }: { look: LookCard | null; shoot: Shoot }): React.JSX.Element {
  const [trying, setTrying] = useState(false),
    [applyLook] = useApplyLookMutation();
  const lead = shoot.frames.find((f) => f.id === shoot.leadFrameId) ?? shoot.frames[0]!,
    worn = shoot.look?.id === look?.id && shoot.look?.revision === look?.revision;
  const wear = async (): Promise<void> => {
    if (!look) return;
    const before = shoot.look;
    setTrying(false);
    try {
      await applyLook({ shootId: shoot.id, lookId: look.id, revision: look.revision }).unwrap();
      tell(`${shoot.name} wears ${look.name}`, async () => {
        await applyLook({ shootId: shoot.id, lookId: before?.id ?? null, revision: before?.revision ?? null }).unwrap();
      });
    } catch (e) {
      complain(messageOf(e));
    }
  };
  return (
    <aside className="large-look" aria-label={look ? `${look.name} on ${lead.name}` : 'A look, large'}>
      {look && !look.broken ? (
        <>
          <Picture alt={`${lead.name} under ${look.name}`} src={pictureUrl(lead, look, 1080)} />
          <DyeStrip strip={look.strip} height={14} />
          <p className="large-name" title={look.name}>
            {look.name}
          </p>
          <p>{look.notes}</p>
          {look.tags.length > 0 && <p className="hint">{look.tags.join(' · ')}</p>}
          <div className="large-acts">
            <Button size="xs" colorPalette="dye" disabled={worn} onClick={() => setTrying(true)}>
              {worn ? 'The shoot wears it' : `Try on ${shoot.name.length > 24 ? 'the shoot' : shoot.name}…`}
            </Button>
            <Button size="xs" variant="outline" asChild>
              <Link to={`/bench?look=${look.id}`}>Open on the bench</Link>
            </Button>
          </div>
        </>
      ) : (
        <p className="hint">
          Point at a look to see it large on {lead.name}, the lead frame of {shoot.name}.
        </p>
      )}
      {trying && look && (
        <ChangeSheet
          title={`${shoot.name} under ${look.name}`}
          frames={shoot.frames.filter((f) => f.look === null)}
          now={(f) => pictureUrl(f, shoot.look, 360, shoot.rendition)}
          then={(f) => pictureUrl(f, look, 360)}
          words={`Wear ${look.name}`}
          onClose={() => setTrying(false)}
          onTake={() => void wear()}
        />
      )}
    </aside>
  );
}
