import type { Cdl, Look, Rendition, StoredPicture, StoredTable } from '@dyepot/core';
import { createApi, fetchBaseQuery, type BaseQueryFn, type FetchArgs, type FetchBaseQueryError } from '@reduxjs/toolkit/query/react';
import { serverAnswered } from './house/serverAway.ts';
import { doorIsClosed } from './people/door.ts';
import { byHash, filled, leanly } from './saving/keptDocuments.ts';
import { withFilm } from './view/withFilm.ts';
import type {
  HouseFacts,
  DraftWish,
  Draft,
  DraftCard,
  Frame,
  Job,
  LookCard,
  Revision,
  Settings,
  ShelfLook,
  Shoot,
  ShootCard,
  TrashKind,
} from './types.ts';

const ask = fetchBaseQuery({
  baseUrl: '/api',
  prepareHeaders: (headers) => {
    if (!headers.has(byHash)) headers.set(byHash, 'yes');
  },
});
type Ask = typeof ask;
/** Asks with hashes for the pictures and tables that the server keeps; whole where it has one no more. */
const askLeanly: Ask = async (args, api, extra) => {
  if (typeof args === 'string' || typeof args.body !== 'object' || args.body instanceof Blob)
    return filledAnswer(await ask(args, api, extra));
  const lean = await ask({ ...args, body: leanly(args.body) }, api, extra);
  return filledAnswer(lean.error?.status === 424 ? await ask({ ...args, headers: { [byHash]: 'whole' } }, api, extra) : lean);
};
async function filledAnswer(answer: Awaited<ReturnType<Ask>>): Promise<typeof answer> {
  if (answer.error) return answer;
  try {
    return { ...answer, data: await filled(answer.data) };
  } catch (error) {
    return { ...answer, data: undefined, error: { status: 'FETCH_ERROR', error: String(error) } };
  }
}
/** Whether nobody answered, or a proxy whose server does not. */
function isAway(error: FetchBaseQueryError | undefined): boolean {
  const status = error?.status === 'PARSING_ERROR' ? error.originalStatus : error?.status;
  return status === 'FETCH_ERROR' || status === 502 || status === 503 || status === 504;
}
/** Asks the server, and notes whether it answers at all. */
const baseQuery: BaseQueryFn<string | FetchArgs, unknown, FetchBaseQueryError> = async (args, api, extra) => {
  const answer = await askLeanly(args, api, extra);
  serverAnswered(!isAway(answer.error));
  // a name and password that do not belong together are said where they are asked for
  if (answer.error?.status === 401 && api.endpoint !== 'logIn') doorIsClosed(true);
  return answer;
};

/** A request that goes on when its page is left, where it is small: all under way may take 64 KB together (Fetch standard, keepalive). */
export const lasting = (request: FetchArgs): FetchArgs => ({ ...request, keepalive: JSON.stringify(request.body ?? '').length < 20_000 });

/** A shoot with each frame's camera profile, which is sent once for all that share it. */
const whole = (
  sent: Omit<Shoot, 'frames'> & {
    frames: (Omit<Frame, 'profile'> & { profile: number })[];
    profiles: Omit<Frame['profile'], 'asShotNeutral'>[];
  },
): Shoot => ({
  ...sent,
  frames: sent.frames.map((f) => ({ ...f, profile: { ...sent.profiles[f.profile]!, asShotNeutral: f.neutral } })),
});

/** The server, as the pages see it. */
export const api = createApi({
  reducerPath: 'api',
  baseQuery,
  // what failed while the server was away is asked again when it is back
  refetchOnReconnect: true,
  keepUnusedDataFor: 300,
  tagTypes: ['Shoots', 'Shoot', 'Looks', 'Look', 'Draft', 'Job', 'Lens', 'Preset', 'Trash', 'Settings', 'Stocks', 'Watches'],
  endpoints: (build) => ({
    shoots: build.query<ShootCard[], void>({ query: () => '/shoots', providesTags: ['Shoots'] }),
    shoot: build.query<Shoot, number>({
      query: (id) => `/shoots/${id}`,
      transformResponse: whole,
      providesTags: (_r, _e, id) => [{ type: 'Shoot', id }],
    }),
    createShoot: build.mutation<{ id: number }, string>({
      query: (name) => ({ url: '/shoots', method: 'POST', body: { name } }),
      invalidatesTags: ['Shoots'],
    }),
    updateShoot: build.mutation<object, { id: number; name?: string; leadFrameId?: number; rendition?: Rendition }>({
      query: ({ id, ...body }) => ({ url: `/shoots/${id}`, method: 'PATCH', body }),
      invalidatesTags: (_r, _e, { id }) => ['Shoots', { type: 'Shoot', id }],
    }),
    takeOutShoot: build.mutation<object, number>({
      query: (id) => ({ url: `/shoots/${id}`, method: 'DELETE' }),
      invalidatesTags: ['Shoots', 'Job', 'Trash'],
    }),
    applyLook: build.mutation<object, { shootId: number; lookId: number | null; revision: number | null }>({
      query: ({ shootId, ...body }) => ({ url: `/shoots/${shootId}/look`, method: 'POST', body }),
      invalidatesTags: (_r, _e, { shootId }) => ['Shoots', { type: 'Shoot', id: shootId }],
    }),
    takeOutFrames: build.mutation<object, number[]>({
      query: (ids) => ({ url: '/frames/take-out', method: 'POST', body: { ids } }),
      invalidatesTags: ['Shoot', 'Shoots', 'Trash'],
    }),
    dipAgain: build.mutation<{ ids: number[] }, number[]>({
      query: (ids) => ({ url: '/frames/dip', method: 'POST', body: { ids } }),
      invalidatesTags: ['Shoot', 'Shoots'],
    }),
    dressFrames: build.mutation<object, { ids: number[]; lookId: number | null; revision: number | null }>({
      query: (body) => ({ url: '/frames/look', method: 'POST', body }),
      invalidatesTags: ['Shoot'],
    }),
    readTable: build.mutation<{ table: StoredTable; corrections: { id: string; cdl: Cdl }[]; warnings: string[] }, File>({
      query: (file) => ({
        url: `/tables/read?name=${encodeURIComponent(file.name)}`,
        method: 'POST',
        body: file,
        headers: { 'Content-Type': 'application/octet-stream' },
      }),
    }),
    readPicture: build.mutation<StoredPicture, File>({
      query: (file) => ({
        url: `/pictures/read?name=${encodeURIComponent(file.name)}`,
        method: 'POST',
        body: file,
        headers: { 'Content-Type': 'application/octet-stream' },
      }),
    }),
    takePicture: build.mutation<{ id: string }, File>({
      query: (file) => ({
        url: `/tables/picture?name=${encodeURIComponent(file.name)}`,
        method: 'POST',
        body: file,
        headers: { 'Content-Type': 'application/octet-stream' },
      }),
    }),
    looks: build.query<LookCard[], void>({ query: () => '/looks', providesTags: ['Looks'] }),
    look: build.query<ShelfLook, { id: number; revision?: number | null }>({
      query: ({ id, revision }) => `/looks/${id}${revision ? `?revision=${revision}` : ''}`,
      transformResponse: (look: ShelfLook) => withFilm(look, look.document),
      providesTags: (_r, _e, { id }) => [{ type: 'Look', id }],
    }),
    revisions: build.query<Revision[], number>({
      query: (id) => `/looks/${id}/revisions`,
      providesTags: (_r, _e, id) => [{ type: 'Look', id }],
    }),
    createLook: build.mutation<ShelfLook, Look>({ query: (body) => ({ url: '/looks', method: 'POST', body }), invalidatesTags: ['Looks'] }),
    saveRevision: build.mutation<ShelfLook, { id: number; look: Look; from: number | null }>({
      query: ({ id, ...body }) => ({ url: `/looks/${id}/revisions`, method: 'POST', body }),
      invalidatesTags: (_r, _e, { id }) => ['Looks', { type: 'Look', id }],
    }),
    takeOutLook: build.mutation<object, number>({
      query: (id) => ({ url: `/looks/${id}`, method: 'DELETE' }),
      invalidatesTags: ['Looks', 'Draft', 'Trash'],
    }),
    drafts: build.query<DraftCard[], void>({ query: () => '/drafts', providesTags: ['Draft'] }),
    // a film may also come back by what can be undone
    draft: build.query<Draft, number>({
      query: (id) => `/drafts/${id}`,
      transformResponse: (draft: Draft) => withFilm(draft, draft.look, draft.past.length + draft.future.length > 0),
      keepUnusedDataFor: 0,
    }),
    draftOfLook: build.query<Draft | null, number>({
      query: (id) => `/looks/${id}/draft`,
      transformResponse: (draft: Draft | null) => withFilm(draft, draft?.look, (draft?.past.length ?? 0) + (draft?.future.length ?? 0) > 0),
      keepUnusedDataFor: 0,
    }),
    beginDraft: build.mutation<Draft, DraftWish>({
      query: (body) => lasting({ url: '/drafts', method: 'POST', body }),
      invalidatesTags: ['Draft'],
    }),
    saveDraft: build.mutation<{ id: number; version: number }, DraftWish & { id: number; version: number }>({
      query: ({ id, ...body }) => lasting({ url: `/drafts/${id}`, method: 'PUT', body }),
    }),
    takeOutDraft: build.mutation<object, number>({
      query: (id) => ({ url: `/drafts/${id}`, method: 'DELETE' }),
      invalidatesTags: ['Draft', 'Trash'],
    }),
    endDraft: build.mutation<object, number>({
      query: (id) => ({ url: `/drafts/${id}?done=true`, method: 'DELETE' }),
      invalidatesTags: ['Draft'],
    }),
    putBack: build.mutation<object, { kind: TrashKind; id: number }>({
      query: ({ kind, id }) => ({ url: `/trash/${kind}/${id}/restore`, method: 'POST' }),
      invalidatesTags: ['Trash', 'Shoots', 'Shoot', 'Looks', 'Draft', 'Preset', 'Job'],
    }),
    settings: build.query<HouseFacts, void>({ query: () => '/settings', providesTags: ['Settings'] }),
    changeSettings: build.mutation<Settings, Partial<Settings>>({
      query: (body) => ({ url: '/settings', method: 'PATCH', body }),
      invalidatesTags: ['Settings'],
    }),
    jobs: build.query<Job[], void>({ query: () => '/jobs', providesTags: ['Job'] }),
    goOn: build.mutation<Job, number>({ query: (id) => ({ url: `/jobs/${id}/go-on`, method: 'POST' }), invalidatesTags: ['Job'] }),
    cancelJob: build.mutation<Job, number>({ query: (id) => ({ url: `/jobs/${id}/cancel`, method: 'POST' }), invalidatesTags: ['Job'] }),
  }),
});
export const {
  useShootsQuery,
  useShootQuery,
  useCreateShootMutation,
  useUpdateShootMutation,
  useTakeOutShootMutation,
  useApplyLookMutation,
  useTakeOutFramesMutation,
  usePutBackMutation,
  useReadTableMutation,
  useTakePictureMutation,
  useLooksQuery,
  useLookQuery,
  useRevisionsQuery,
  useCreateLookMutation,
  useSaveRevisionMutation,
  useTakeOutLookMutation,
  useDraftsQuery,
  useTakeOutDraftMutation,
  useSettingsQuery,
  useChangeSettingsMutation,
  useJobsQuery,
  useCancelJobMutation,
  useGoOnMutation,
  useDipAgainMutation,
  useDressFramesMutation,
} = api;

/** The sentence of a failed request. */
export function messageOf(error: unknown): string {
  const data = (error as { data?: { message?: unknown } } | undefined)?.data;
  if (typeof data?.message === 'string') return data.message;
  if ((error as { status?: unknown } | undefined)?.status === 'FETCH_ERROR')
    return 'Dyepot’s server does not answer. It is asked again as soon as it is back.';
  return error instanceof Error ? error.message : 'something went wrong';
}
