import { stepKind, stepsOf, type Look, type LookStep } from '@dyepot/core';
import { Button } from '@chakra-ui/react';
import { useMemo, useState } from 'react';
import { messageOf } from '../api.ts';
import { useBakeReportQuery } from './bakeApi.ts';
import { CheckGrid } from '../kit/CheckGrid.tsx';
import { complain, tell } from '../kit/notices.tsx';
import { Sheet } from '../kit/Sheet.tsx';
import { nameOf } from './benchSlice.ts';
import { letGo } from '../kit/letGo.ts';
import { leanText } from '../saving/keptDocuments.ts';

const formats = [
    ['cube', 'Cube LUT (.cube)'],
    ['png', 'Hald image (16-bit PNG)'],
    ['tif', 'Hald image (16-bit TIFF)'],
    ['clf', 'Common LUT Format (.clf)'],
    ['cc', 'CDL, the nearest (.cc)'],
    ['ccc', 'CDL collection (.ccc)'],
    ['cdl', 'CDL list (.cdl)'],
  ] as const,
  inputs = [
    ['srgb', 'sRGB pictures'],
    ['acescct', 'ACEScct scene light'],
    ['linear', 'linear scene light, Rec.2020'],
  ] as const;

/** A look as a lookup table: what it cannot carry, how near it comes, and the file. */
export function BakeSheet({ look, onClose }: { look: Look; onClose: () => void }): React.JSX.Element {
  const [format, setFormat] = useState<string>('cube'),
    [size, setSize] = useState(33),
    [input, setInput] = useState<string>('srgb'),
    [off, setOff] = useState<ReadonlySet<string>>(new Set()),
    [busy, setBusy] = useState(false),
    hald = format === 'png' || format === 'tif',
    numbers = ['cc', 'ccc', 'cdl'].includes(format),
    sizes = hald ? [16, 25, 36, 49, 64] : [17, 33, 49, 65],
    own = sizes.includes(size) ? size : hald ? 64 : 33,
    // a Hald image reaches from 0 to 1 only
    from = hald && input === 'linear' ? 'acescct' : input;
  const chosen = useMemo((): Look => {
      const only = (s: LookStep): LookStep => (off.has(s.id) ? { ...s, on: false } : s);
      return { ...look, scene: look.scene.map(only), stock: only(look.stock), print: look.print.map(only) };
    }, [look, off]),
    wish = { look: chosen, format, size: own, input: from },
    { data: report, error, isFetching } = useBakeReportQuery(wish),
    steps = stepsOf(look).filter((s) => s.on),
    cannot = useMemo(
      () =>
        new Set(
          stepsOf(look)
            .filter((s) => stepKind(s.kind)?.unbakeable)
            .map((s) => s.id),
        ),
      [look],
    );
  const save = async (): Promise<void> => {
    setBusy(true);
    try {
      const r = await fetch('/api/tables/bake', {
        method: 'POST',
        headers: { 'Content-Type': 'application/json' },
        body: leanText(wish),
      });
      if (!r.ok) {
        complain(((await r.json()) as { message?: string }).message ?? 'the table could not be made');
        return;
      }
      const url = URL.createObjectURL(await r.blob()),
        a = document.createElement('a');
      a.href = url;
      a.download = `${look.name}.${format}`;
      a.click();
      letGo(url);
      tell(`${look.name}.${format} baked`);
    } catch {
      complain('Dyepot’s server does not answer. Is it still running?');
    } finally {
      setBusy(false);
    }
  };
  return (
    <Sheet title={`Bake ${look.name}`} onClose={onClose}>
      <div className="bake-head">
        <label className="inline">
          as{' '}
          <select aria-label="File format" value={format} onChange={(e) => setFormat(e.target.value)}>
            {formats.map(([v, w]) => (
              <option key={v} value={v}>
                {w}
              </option>
            ))}
          </select>
        </label>
        {!numbers && (
          <label className="inline">
            size{' '}
            <select aria-label="Size" value={own} onChange={(e) => setSize(Number(e.target.value))}>
              {sizes.map((s) => (
                <option key={s} value={s}>
                  {s}³
                </option>
              ))}
            </select>
          </label>
        )}
        <label className="inline">
          for{' '}
          <select aria-label="Made for" value={from} onChange={(e) => setInput(e.target.value)}>
            {inputs
              .filter(([v]) => !hald || v !== 'linear')
              .map(([v, w]) => (
                <option key={v} value={v}>
                  {w}
                </option>
              ))}
          </select>
        </label>
      </div>
      <h3 className="part-head">Steps that go in</h3>
      <CheckGrid
        of={steps.map((s) => ({ value: s.id, words: nameOf(s), fixed: s.id === look.stock.id || cannot.has(s.id) }))}
        chosen={new Set(steps.filter((s) => !off.has(s.id) && !cannot.has(s.id)).map((s) => s.id))}
        onChosen={(kept) => setOff(new Set(steps.filter((s) => !kept.has(s.id) && !cannot.has(s.id)).map((s) => s.id)))}
      />
      <div data-testid="bake-report" className="bake-report">
        {report?.leftOut.map((l) => (
          <p key={l.name}>
            <b>{l.name}</b> cannot be in a table: {l.reason}.
          </p>
        ))}
        {error ? (
          <p role="alert">{messageOf(error)}</p>
        ) : report && !isFetching ? (
          <p>
            Against the look over 1,564 colours: CIEDE2000 <b>{report.error.mean.toFixed(2)}</b> in the mean,{' '}
            <b>{report.error.worst.toFixed(2)}</b> at worst.{' '}
            {!numbers &&
              (report.suggestedSize > own
                ? `${report.suggestedSize}³ would come nearer.`
                : report.suggestedSize < own
                  ? `${report.suggestedSize}³ would do as well.`
                  : 'This size serves.')}
            {numbers && report.error.mean > 1 ? ' Ten numbers cannot hold this look.' : ''}
          </p>
        ) : (
          <p className="dim">Measuring…</p>
        )}
        {from === 'linear' && format === 'cube' && (
          <p className="purpose">
            Of linear light a .cube spends most of its entries on the lights; a .clf takes a logarithm first and comes nearer.
          </p>
        )}
        {from === 'srgb' && (
          <p className="purpose">
            For finished sRGB pictures: they are taken back to light as the plain rendition would have made them, so a look without steps
            changes nothing.
          </p>
        )}
      </div>
      <div className="sheet-actions">
        <Button size="sm" variant="ghost" onClick={onClose}>
          Close
        </Button>
        <Button size="sm" colorPalette="dye" loading={busy} onClick={() => void save()}>
          Save the file
        </Button>
      </div>
    </Sheet>
  );
}
