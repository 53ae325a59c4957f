import { Button, Input } from '@chakra-ui/react';
import { useState } from 'react';
import { useForm } from 'react-hook-form';
import { useNavigate } from 'react-router';
import { messageOf, useDeliverMutation } from '../api.ts';
import { Sheet } from '../kit/Sheet.tsx';
import { saver } from '../saving/index.ts';
import type { FileSettings, OrderQuestion, Shoot } from '../types.ts';

interface Values {
  format: FileSettings['format'];
  depth: '8' | '16';
  space: FileSettings['space'];
  size: string;
  quality: string;
  folder: string;
}
const key = 'dyepot-delivery-2';
const usual: Values = { format: 'jpeg', depth: '8', space: 'srgb', size: '', quality: '92', folder: '' };
function kept(): Values {
  try {
    return { ...usual, ...(JSON.parse(localStorage.getItem(key) ?? '{}') as Partial<Values>) };
  } catch {
    return usual;
  }
}
const whole = (text: string, min: number, max: number): number | null => {
  const n = Number(text.trim());
  return /^\d+$/.test(text.trim()) && n >= min && n <= max ? n : null;
};
/** The settings of a form, or what is wrong with them. */
function settingsOf(v: Values): FileSettings | { wrong: string } {
  const size = v.size.trim() === '' ? null : whole(v.size, 16, 30000),
    quality = v.format === 'jpeg' ? whole(v.quality, 1, 100) : 92;
  if (size === null && v.size.trim() !== '')
    return { wrong: 'The long edge is a whole number of pixels from 16 to 30000, or empty for the full size.' };
  if (quality === null) return { wrong: 'The quality is a whole number from 1 to 100.' };
  return { format: v.format, depth: v.format !== 'jpeg' && v.depth === '16' ? 16 : 8, space: v.space, size, quality };
}

type Answers = { conflict: 'ask' | 'rename' | 'replace'; doubtful: 'ask' | 'leave out' | 'deliver' };
const unasked: Answers = { conflict: 'ask', doubtful: 'ask' };

/** What an order asks before anything is delivered: about files of the same names, or raws that may not be whole. */
function Question({
  asked,
  onAnswer,
  onBack,
}: {
  asked: OrderQuestion;
  onAnswer: (a: Partial<Answers>) => void;
  onBack: () => void;
}): React.JSX.Element {
  const names = asked.names.slice(0, 6).join(', '),
    more = asked.count - Math.min(6, asked.names.length);
  return (
    <div role="alert" className="order-question">
      <p>
        <b>{asked.message}.</b>
      </p>
      <p className="dim">
        {names}
        {more > 0 && ` and ${more} more`}
      </p>
      <div className="sheet-actions">
        <Button size="sm" variant="ghost" onClick={onBack}>
          {asked.question === 'conflict' ? 'Another folder…' : 'Back'}
        </Button>
        {asked.question === 'conflict' ? (
          <>
            <Button size="sm" variant="outline" onClick={() => onAnswer({ conflict: 'replace' })}>
              Replace {asked.count === 1 ? 'it' : 'them'}
            </Button>
            <Button size="sm" colorPalette="dye" onClick={() => onAnswer({ conflict: 'rename' })}>
              Use other names
            </Button>
          </>
        ) : (
          <>
            <Button size="sm" variant="outline" onClick={() => onAnswer({ doubtful: 'deliver' })}>
              Deliver {asked.count === 1 ? 'it' : 'them'} too
            </Button>
            <Button size="sm" colorPalette="dye" onClick={() => onAnswer({ doubtful: 'leave out' })}>
              Leave {asked.count === 1 ? 'it' : 'them'} out
            </Button>
          </>
        )}
      </div>
    </div>
  );
}

/** Settings of a delivery; those that served are remembered for the next one. */
export function DeliverSheet({
  shoot,
  frameIds,
  onClose,
}: {
  shoot: Shoot;
  frameIds: number[] | null;
  onClose: () => void;
}): React.JSX.Element {
  const navigate = useNavigate(),
    [deliver, state] = useDeliverMutation(),
    [error, setError] = useState<string | null>(null),
    [asked, setAsked] = useState<OrderQuestion | null>(null),
    [answers, setAnswers] = useState<Answers>(unasked);
  const { register, handleSubmit, watch, getValues } = useForm<Values>({ defaultValues: kept() });
  const format = watch('format'),
    count = frameIds?.length ?? shoot.frames.length,
    own = shoot.frames.filter((f) => f.look && (frameIds?.includes(f.id) ?? true)).length;
  const order = async (v: Values, given: Answers): Promise<void> => {
    setError(null);
    const file = settingsOf(v);
    if ('wrong' in file) return setError(file.wrong);
    // what is not saved yet would not be delivered
    if (!(await saver.flush())) return setError('What you did last is not saved yet; the delivery can be ordered when the server has it.');
    try {
      await deliver({ shootId: shoot.id, frameIds, folder: v.folder.trim() || null, file, ...given }).unwrap();
      localStorage.setItem(key, JSON.stringify(v));
      void navigate('/deliveries');
    } catch (e) {
      const { status, data } = e as { status?: unknown; data?: Partial<OrderQuestion> };
      if (status === 409 && data?.question) setAsked(data as OrderQuestion);
      else setError(messageOf(e));
    }
  };
  const answer = (given: Partial<Answers>): void => {
    const next = { ...answers, ...given };
    setAnswers(next);
    setAsked(null);
    void order(getValues(), next);
  };
  return (
    <Sheet title={`Deliver ${count} ${count === 1 ? 'frame' : 'frames'}`} onClose={onClose}>
      <p className="dim">
        {shoot.look ? `Under ${shoot.look.name}, revision ${shoot.look.revision}` : 'Under the neutral response, no look'}
        {own > 0 && `; ${own} under ${own === 1 ? 'a look of its own' : 'looks of their own'}`}
      </p>
      {asked ? (
        <Question
          asked={asked}
          onAnswer={answer}
          onBack={() => {
            setAsked(null);
            setAnswers(unasked);
          }}
        />
      ) : (
        <form className="deliver-form" onSubmit={(e) => void handleSubmit((v) => order(v, answers))(e)}>
          <label>
            Format
            <select {...register('format')}>
              <option value="jpeg">JPEG</option>
              <option value="tiff">TIFF</option>
              <option value="png">PNG</option>
            </select>
          </label>
          {format === 'jpeg' ? (
            <label>
              Quality
              <Input size="sm" {...register('quality')} inputMode="numeric" />
            </label>
          ) : (
            <label>
              Bits
              <select {...register('depth')}>
                <option value="8">8</option>
                <option value="16">16</option>
              </select>
            </label>
          )}
          <label>
            Colour
            <select {...register('space')}>
              <option value="srgb">sRGB</option>
              <option value="p3">Display P3</option>
            </select>
          </label>
          <label>
            Long edge, px
            <Input size="sm" placeholder="full size" {...register('size')} inputMode="numeric" />
          </label>
          <label className="wide">
            Into folder
            <Input size="sm" placeholder="Dyepot’s own; download as zip" {...register('folder', { onChange: () => setAnswers(unasked) })} />
          </label>
          {error && (
            <p className="form-error wide" role="alert">
              {error}
            </p>
          )}
          <div className="sheet-actions wide">
            <Button size="sm" variant="ghost" onClick={onClose}>
              Cancel
            </Button>
            <Button size="sm" type="submit" colorPalette="dye" loading={state.isLoading}>
              Deliver
            </Button>
          </div>
        </form>
      )}
    </Sheet>
  );
}
