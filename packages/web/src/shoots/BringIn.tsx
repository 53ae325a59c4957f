import { Button, Input } from '@chakra-ui/react';
import { useState } from 'react';
import { useDropzone } from 'react-dropzone';
import { messageOf, useImportFolderMutation, useImportUploadsMutation } from '../api.ts';
import { complain } from '../kit/notices.tsx';
import { Sheet } from '../kit/Sheet.tsx';

/** Brings raws in: files dropped here are copied into Dyepot; a folder on this machine is used where it is. */
export function BringIn({ shootId, onClose }: { shootId: number; onClose: () => void }): React.JSX.Element {
  const [folder, setFolder] = useState(''),
    [sending, setSending] = useState<{ done: number; total: number } | null>(null);
  const [importFolder, asking] = useImportFolderMutation(),
    [importUploads] = useImportUploadsMutation();
  const upload = async (files: File[]): Promise<void> => {
    const paths: string[] = [];
    setSending({ done: 0, total: files.length });
    for (const [i, file] of files.entries()) {
      try {
        const response = await fetch(`/api/shoots/${shootId}/upload?name=${encodeURIComponent(file.name)}`, {
          method: 'PUT',
          body: file,
          headers: { 'Content-Type': 'application/octet-stream' },
        });
        const body = (await response.json()) as { path?: string; message?: string };
        if (body.path) paths.push(body.path);
        else complain(body.message ?? `${file.name} could not be sent`);
      } catch {
        complain(`${file.name} could not be sent: the server does not answer`);
      }
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
  const { getRootProps, getInputProps, isDragActive } = useDropzone({
    onDrop: (files) => {
      if (files.length > 0) void upload(files);
    },
    disabled: sending !== null,
  });
  return (
    <Sheet title="Bring raws in" onClose={onClose}>
      <form
        onSubmit={(e) => {
          e.preventDefault();
          importFolder({ shootId, folder })
            .unwrap()
            .then(onClose, (error: unknown) => complain(messageOf(error)));
        }}
      >
        <label>
          From a folder on this machine
          <Input size="sm" autoFocus placeholder="/home/me/shoots/october" value={folder} onChange={(e) => setFolder(e.target.value)} />
        </label>
        <p className="dim">The files stay where they are and are never changed.</p>
        <div className="sheet-actions">
          <Button size="sm" type="submit" colorPalette="dye" disabled={!folder.trim()} loading={asking.isLoading}>
            Use this folder
          </Button>
        </div>
      </form>
      <div {...getRootProps({ className: `drop ${isDragActive ? 'over' : ''}` })}>
        <input {...getInputProps({ 'aria-label': 'Raw files to upload' })} />
        {sending
          ? `Sending ${sending.done + 1 > sending.total ? sending.total : sending.done + 1} of ${sending.total}…`
          : 'or drop raw files here, or click to choose them'}
      </div>
    </Sheet>
  );
}
