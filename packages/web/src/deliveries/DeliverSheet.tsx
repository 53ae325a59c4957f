import { Button, Input } from '@chakra-ui/react';
import { nameFrom, nameTokens, patternTrouble } from '@dyepot/core';
import { useState } from 'react';
import { useForm } from 'react-hook-form';
import { useNavigate } from 'react-router';
import { messageOf, useLooksQuery } from '../api.ts';
import { useDeliverMutation } from './deliveryApi.ts';
import { Sheet } from '../kit/Sheet.tsx';
import { saver } from '../saving/index.ts';
import type { Frame, LookCard, OrderQuestion, Shoot } from '../types.ts';
import { keep, kept, lossy, settingsOf, spaceNames, valuesOf, type Values } from './deliverForm.ts';
import { Question, unasked, type Answers } from './OrderQuestion.tsx';
import { useDeliveryPresetsQuery } from './deliveryApi.ts';
import { Presets } from './Presets.tsx';

/** The name the first frame's file gets, or what is wrong with the pattern. */
function firstName(
  pattern: string,
  shoot: Shoot,
  frames: readonly Frame[],
  looks: readonly LookCard[],
  ending: string,
): { name: string } | { wrong: string } {
  const wrong = patternTrouble(pattern),
    [frame] = frames;
  if (wrong !== null) return { wrong };
  if (!frame) return { wrong: 'No frame is chosen.' };
  const own = frame.look && looks.find((l) => l.id === frame.look!.id),
    look = frame.look ? { name: own?.name ?? '', revision: frame.look.revision } : shoot.look;
  const stem = nameFrom(pattern, {
    frame: frame.name,
    shoot: shoot.name,
    look: look?.name ?? 'Neutral response',
    revision: look?.revision ?? null,
    date: (frame.exif.takenAt ?? new Date().toISOString()).slice(0, 10),
    counter: 1,
    count: frames.length,
    dip: shoot.frames.filter((f) => f.hash === frame.hash && f.id <= frame.id).length,
  });
  return { name: `${stem}.${ending}` };
}
const endings = { jpeg: 'jpg', tiff: 'tif', png: 'png', webp: 'webp', avif: 'avif' } as const;

/** Settings of a delivery, under presets of one's own; those that served are remembered for the next one. */
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
    { data: looks } = useLooksQuery(),
    { data: known } = useDeliveryPresetsQuery(),
    [also, setAlso] = useState<readonly string[]>([]),
    [presetName, setPresetName] = useState<string | undefined>(),
    [deliver, state] = useDeliverMutation(),
    [error, setError] = useState<string | null>(null),
    [asked, setAsked] = useState<OrderQuestion | null>(null),
    [answers, setAnswers] = useState<Answers>(unasked);
  const { register, handleSubmit, watch, getValues, reset, setValue } = useForm<Values>({ defaultValues: kept() });
  const values = watch(),
    { format, sizeBy, pattern } = values,
    frames = shoot.frames.filter((f) => frameIds?.includes(f.id) ?? true),
    count = frames.length,
    own = frames.filter((f) => f.look).length,
    first = firstName(pattern, shoot, frames, looks ?? [], endings[format]);
  const order = async (v: Values, given: Answers): Promise<void> => {
    setError(null);
    const file = settingsOf(v);
    if ('wrong' in file) return setError(file.wrong);
    if ('wrong' in first) return setError(first.wrong);
    // what is not saved yet would not be delivered
    if (!(await saver.flush())) return setError('What you did last is not saved yet; the delivery can be ordered when the server has it.');
    try {
      const more = (known?.presets ?? []).filter((p) => also.includes(p.name) && p.name !== presetName);
      await deliver({
        shootId: shoot.id,
        frameIds,
        folder: v.folder.trim() || null,
        file,
        pattern: v.pattern,
        ...(more.length > 0 && { also: more.map((p) => ({ ...p, folder: p.folder || null })) }),
        ...given,
      }).unwrap();
      keep(v);
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
    <Sheet title={`Deliver ${count} ${count === 1 ? 'frame' : 'frames'}`} onClose={onClose} wide>
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
          <Presets
            values={values}
            onTake={(p) => {
              reset(valuesOf(p));
              setPresetName(p.name);
            }}
            also={also}
            onAlso={setAlso}
          />
          <label>
            Format
            <select {...register('format')}>
              <option value="jpeg">JPEG</option>
              <option value="tiff">TIFF</option>
              <option value="png">PNG</option>
              <option value="webp">WebP</option>
              <option value="avif">AVIF</option>
            </select>
          </label>
          {lossy(format) ? (
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
            <select {...register('space')} disabled={format === 'avif'}>
              {Object.entries(spaceNames).map(([space, words]) =>
                format === 'avif' && space !== 'srgb' ? null : (
                  <option key={space} value={space}>
                    {words}
                  </option>
                ),
              )}
            </select>
          </label>
          <label>
            Sharpened for
            <select {...register('sharpen')}>
              <option value="none">nothing</option>
              <option value="screen">a screen</option>
              <option value="glossy">glossy paper</option>
              <option value="matte">matte paper</option>
            </select>
          </label>
          <label>
            Size measured by
            <select {...register('sizeBy')}>
              <option value="long">its long edge</option>
              <option value="short">its short edge</option>
              <option value="megapixels">megapixels</option>
              <option value="box">a box it fits in</option>
            </select>
          </label>
          <label>
            {{ megapixels: 'Megapixels', short: 'Short edge, px', long: 'Long edge, px', box: 'Width × height, px' }[sizeBy]}
            <Input size="sm" placeholder="full size" {...register('size')} inputMode="decimal" />
          </label>
          <label className="wide">
            File name
            <Input size="sm" {...register('pattern')} aria-describedby="name-shown" />
          </label>
          <p className="wide name-tokens" id="name-shown">
            <b className={'wrong' in first ? 'wrong' : ''}>{'wrong' in first ? first.wrong : first.name}</b>
            {Object.entries(nameTokens).map(([token, words]) => (
              <button
                key={token}
                type="button"
                title={`${words[0]!.toUpperCase()}${words.slice(1)}`}
                onClick={() => setValue('pattern', `${getValues('pattern')}{${token}}`)}
              >
                {`{${token}}`}
              </button>
            ))}
          </p>
          <label className="wide">
            Into folder
            <Input size="sm" placeholder="Dyepot’s own; download as zip" {...register('folder', { onChange: () => setAnswers(unasked) })} />
          </label>
          <details className="wide">
            <summary>What the files say</summary>
            <div className="deliver-form">
              <label className="tick wide">
                <input type="checkbox" {...register('taken')} /> how the picture was taken
              </label>
              <label className="tick wide">
                <input type="checkbox" {...register('namesLook')} /> its look and revision
              </label>
              <label>
                Author
                <Input size="sm" maxLength={200} {...register('author')} />
              </label>
              <label>
                Copyright
                <Input size="sm" maxLength={200} {...register('copyright')} />
              </label>
              <label className="wide">
                Contact
                <Input size="sm" maxLength={200} placeholder="an address for letters" {...register('contact')} />
              </label>
            </div>
          </details>
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
