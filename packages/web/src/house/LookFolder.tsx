import { Button } from '@chakra-ui/react';
import { useState } from 'react';
import { api, messageOf } from '../api.ts';
import { complain, tell } from '../kit/notices.tsx';

interface Folder {
  folder: string | null;
  troubles: string[];
}
const { useLookFolderQuery, useSetLookFolderMutation } = api.injectEndpoints({
  endpoints: (build) => ({
    lookFolder: build.query<Folder, void>({ query: () => '/look-folder', providesTags: ['Looks'] }),
    setLookFolder: build.mutation<Folder, string | null>({
      query: (folder) => ({ url: '/look-folder', method: 'PUT', body: { folder } }),
      invalidatesTags: ['Looks'],
    }),
  }),
});

/** The folder by which a studio's machines have the same looks. */
export function LookFolder(): React.JSX.Element {
  const { data } = useLookFolderQuery(),
    [set, setting] = useSetLookFolderMutation(),
    [typed, setTyped] = useState('');
  const change = (folder: string | null): void => {
    set(folder)
      .unwrap()
      .then(
        () =>
          tell(folder === null ? 'The shelf keeps to itself; the files stay where they are' : 'The shelf and the folder are kept the same'),
        (e: unknown) => complain(messageOf(e)),
      );
  };
  return (
    <form
      className="look-folder"
      onSubmit={(e) => {
        e.preventDefault();
        if (typed.trim() !== '') change(typed.trim());
      }}
    >
      {data?.folder ? (
        <>
          <span title={data.folder}>
            Looks are kept the same as in <b>{data.folder}</b>
          </span>
          <Button size="xs" variant="outline" type="button" loading={setting.isLoading} onClick={() => change(null)}>
            No more
          </Button>
        </>
      ) : (
        <>
          <label className="inline">
            Keep looks the same as in the folder{' '}
            <input value={typed} maxLength={4096} placeholder="~/studio/looks" onChange={(e) => setTyped(e.target.value)} />
          </label>
          <Button size="xs" variant="outline" type="submit" disabled={typed.trim() === ''} loading={setting.isLoading}>
            Keep
          </Button>
        </>
      )}
      {data?.troubles.map((t) => (
        <p key={t} className="form-error">
          {t}
        </p>
      ))}
    </form>
  );
}
