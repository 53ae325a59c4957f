import { Button, Checkbox, Input } from '@chakra-ui/react';
import { useRef, useState } from 'react';
import { useDropzone } from 'react-dropzone';
import { messageOf } from '../api.ts';
import { complain } from '../kit/notices.tsx';
import { Sheet } from '../kit/Sheet.tsx';
import { FolderBrowser } from './FolderBrowser.tsx';
import { ArrivingPart, WatchedFolders, type Arriving } from './WatchPart.tsx';
import { useImportFolderMutation, useImportUploadsMutation } from './bringApi.ts';
import { useWatchFolderMutation } from './watchApi.ts';

/** Sends one raw; its place on the server, or null after saying what was wrong. */
async function send(shootId: number, file: File, signal: AbortSignal): Promise<string | null> {
  try {
    const response = await fetch(`/api/shoots/${shootId}/upload?name=${encodeURIComponent(file.name)}`, {
      method: 'PUT',
      body: file,
      headers: { 'Content-Type': 'application/octet-stream' },
      signal,
    });
    const body = (await response.json()) as { path?: string; message?: string };
    if (body.path) return body.path;
    complain(body.message ?? `${file.name} could not be sent`);
  } catch {
    if (!signal.aborted) complain(`${file.name} could not be sent: the server does not answer`);
  }
  return null;
}

/** Brings raws in: a folder on this machine is used where it is; files dropped here are copied into Dyepot. */
export function BringIn({ shootId, onClose }: { shootId: number; onClose: () => void }): React.JSX.Element {
  const [folder, setFolder] = useState(''),
    [browsed, setBrowsed] = useState<string | null>(null),
    [browsing, setBrowsing] = useState(false),
    [deep, setDeep] = useState(false),
    [finished, setFinished] = useState(false),
    [later, setLater] = useState(false),
    [arriving, setArriving] = useState<Arriving>({ lookId: null, preset: '' }),
    [problem, setProblem] = useState<string | null>(null),
    [sending, setSending] = useState<{ done: number; total: number } | null>(null),
    stop = useRef<AbortController | null>(null);
  const [importFolder, asking] = useImportFolderMutation(),
    [watchFolder, watching] = useWatchFolderMutation(),
    [importUploads] = useImportUploadsMutation();
  const upload = async (files: File[]): Promise<void> => {
    const paths: string[] = [],
      hand = new AbortController();
    stop.current = hand;
    setSending({ done: 0, total: files.length });
    for (const [i, file] of files.entries()) {
      if (hand.signal.aborted) break;
      const path = await send(shootId, file, hand.signal);
      if (path) paths.push(path);
      setSending({ done: i + 1, total: files.length });
    }
    setSending(null);
    if (paths.length === 0) return;
    try {
      await importUploads({ shootId, paths }).unwrap();
      onClose();
    } catch (e) {
      complain(messageOf(e));
    }
  };
  const { getRootProps, getInputProps, isDragActive, open } = useDropzone({
    onDrop: (files) => {
      if (files.length > 0) void upload(files);
    },
    disabled: sending !== null,
    noClick: true,
    noKeyboard: true,
  });
  return (
    <Sheet title="Bring raws in" onClose={onClose} wide>
      <form
        onSubmit={(e) => {
          e.preventDefault();
          setProblem(null);
          const asked = later
            ? watchFolder({ shootId, folder: folder.trim(), lookRevision: null, ...arriving }).unwrap()
            : importFolder({ shootId, folder: folder.trim(), deep, finished }).unwrap();
          (asked as Promise<unknown>).then(onClose, (error: unknown) => setProblem(messageOf(error)));
        }}
      >
        <label>
          From a folder on this machine
          <Input
            size="sm"
            autoFocus
            placeholder="~/shoots/october"
            value={folder}
            onChange={(e) => {
              setFolder(e.target.value);
              setProblem(null);
            }}
          />
        </label>
        {problem && (
          <p className="form-error" role="alert">
            {problem}
          </p>
        )}
        <div className="row">
          <Button
            size="xs"
            variant="outline"
            aria-expanded={browsing}
            onClick={() => {
              setBrowsing(!browsing);
              setBrowsed(folder.trim() || null);
            }}
          >
            {browsing ? 'Close the folders' : 'Look through folders…'}
          </Button>
          <Checkbox.Root size="sm" checked={deep || later} disabled={later} onCheckedChange={(e) => setDeep(e.checked === true)}>
            <Checkbox.HiddenInput />
            <Checkbox.Control />
            <Checkbox.Label>and the folders in it</Checkbox.Label>
          </Checkbox.Root>
          <Checkbox.Root
            size="sm"
            checked={finished && !later}
            disabled={later}
            title="JPEG, TIFF and PNG pictures become frames too; one of a raw’s own name stays that raw’s"
            onCheckedChange={(e) => setFinished(e.checked === true)}
          >
            <Checkbox.HiddenInput />
            <Checkbox.Control />
            <Checkbox.Label>and finished pictures</Checkbox.Label>
          </Checkbox.Root>
          <Checkbox.Root size="sm" checked={later} onCheckedChange={(e) => setLater(e.checked === true)}>
            <Checkbox.HiddenInput />
            <Checkbox.Control />
            <Checkbox.Label>and what arrives there later</Checkbox.Label>
          </Checkbox.Root>
        </div>
        {later && <ArrivingPart arriving={arriving} onChange={setArriving} />}
        {browsing && (
          <FolderBrowser
            folder={browsed}
            onFolder={(path) => {
              setBrowsed(path);
              setFolder(path);
            }}
          />
        )}
        <div className="sheet-actions">
          <p className="dim">The files stay where they are and are never changed.</p>
          <Button size="sm" type="submit" colorPalette="dye" disabled={!folder.trim()} loading={asking.isLoading || watching.isLoading}>
            {later ? 'Watch this folder' : 'Use this folder'}
          </Button>
        </div>
      </form>
      <WatchedFolders shootId={shootId} />
      <div {...getRootProps({ className: `drop ${isDragActive ? 'over' : ''}` })}>
        <input {...getInputProps({ 'aria-label': 'Raw files or finished pictures to upload' })} />
        {sending ? (
          <>
            <span role="status">
              Sending {Math.min(sending.done + 1, sending.total)} of {sending.total}…
            </span>
            <Button size="xs" variant="outline" onClick={() => stop.current?.abort()}>
              Stop
            </Button>
          </>
        ) : (
          <>
            <span>or drop raws, JPEG, TIFF or PNG files here; Dyepot keeps a copy</span>
            <Button size="xs" variant="outline" onClick={open}>
              Choose files…
            </Button>
          </>
        )}
      </div>
    </Sheet>
  );
}
