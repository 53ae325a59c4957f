import { api } from '../api.ts';

export type Role = 'look' | 'change';
export interface PersonLine {
  id: number;
  name: string;
  role: Role;
  seenAt: string | null;
}
export interface LinkLine {
  id: number;
  kind: 'look' | 'swatches';
  shows: string;
  expiresAt: string;
  createdAt: string;
}
/** What a link is to show, and for how many days. */
export type LinkWish = { days: number } & ({ kind: 'look'; lookId: number } | { kind: 'swatches'; shootId: number });
/** What is behind a link. */
export interface LinkShown {
  kind: 'look' | 'swatches';
  name: string;
  said: string;
  notes: string;
  steps: { name: string; words: string }[];
  frames: { id: number; name: string }[];
  rows: { look: number; name: string; strip: string[]; said: ('best' | 'out' | null)[] }[];
  expiresAt: string;
}

const people = api.enhanceEndpoints({ addTagTypes: ['People', 'Links'] }).injectEndpoints({
  endpoints: (build) => ({
    logIn: build.mutation<object, { name: string; password: string }>({ query: (body) => ({ url: '/session', method: 'POST', body }) }),
    logOut: build.mutation<object, void>({ query: () => ({ url: '/session', method: 'DELETE' }) }),
    ownPassword: build.mutation<object, { old: string; password: string }>({
      query: (body) => ({ url: '/session/password', method: 'PUT', body }),
    }),
    people: build.query<PersonLine[], void>({ query: () => '/people', providesTags: ['People'] }),
    addPerson: build.mutation<PersonLine, { name: string; password: string; role: Role }>({
      query: (body) => ({ url: '/people', method: 'POST', body }),
      invalidatesTags: ['People'],
    }),
    changePerson: build.mutation<object, { id: number; role?: Role; password?: string }>({
      query: ({ id, ...body }) => ({ url: `/people/${id}`, method: 'PATCH', body }),
      invalidatesTags: ['People', 'Settings'],
    }),
    removePerson: build.mutation<object, number>({
      query: (id) => ({ url: `/people/${id}`, method: 'DELETE' }),
      invalidatesTags: ['People'],
    }),
    links: build.query<LinkLine[], void>({ query: () => '/links', providesTags: ['Links'] }),
    makeLink: build.mutation<LinkLine & { token: string }, LinkWish>({
      query: (body) => ({ url: '/links', method: 'POST', body }),
      invalidatesTags: ['Links'],
    }),
    takeBackLink: build.mutation<object, number>({
      query: (id) => ({ url: `/links/${id}`, method: 'DELETE' }),
      invalidatesTags: ['Links'],
    }),
    linkShown: build.query<LinkShown, string>({ query: (token) => `/links/${encodeURIComponent(token)}/shown` }),
  }),
});
export const {
  useLogInMutation,
  useLogOutMutation,
  useOwnPasswordMutation,
  usePeopleQuery,
  useAddPersonMutation,
  useChangePersonMutation,
  useRemovePersonMutation,
  useLinksQuery,
  useMakeLinkMutation,
  useTakeBackLinkMutation,
  useLinkShownQuery,
} = people;
