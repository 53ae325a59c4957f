import { api, lasting } from '../api.ts';
import type { DraftedSheet, ShelfStock, StockCard } from '../types.ts';

/** The server's stocks, as the pages see them. */
export const stockApi = api.injectEndpoints({
  endpoints: (build) => ({
    stocks: build.query<StockCard[], void>({ query: () => '/stocks', providesTags: ['Stocks'] }),
    stock: build.query<ShelfStock, { id: number; revision?: number | undefined }>({
      query: ({ id, revision }) => `/stocks/${id}${revision ? `?revision=${revision}` : ''}`,
      providesTags: ['Stocks'],
    }),
    stockRevisions: build.query<{ revision: number; createdAt: string }[], number>({
      query: (id) => `/stocks/${id}/revisions`,
      providesTags: ['Stocks'],
    }),
    createStock: build.mutation<ShelfStock, object>({
      query: (body) => ({ url: '/stocks', method: 'POST', body }),
      invalidatesTags: ['Stocks'],
    }),
    saveStock: build.mutation<ShelfStock, { id: number; sheet: object; from: number | null }>({
      query: ({ id, ...body }) => ({ url: `/stocks/${id}/revisions`, method: 'POST', body }),
      invalidatesTags: ['Stocks'],
    }),
    takeOutStock: build.mutation<object, number>({
      query: (id) => ({ url: `/stocks/${id}`, method: 'DELETE' }),
      invalidatesTags: ['Stocks', 'Trash'],
    }),
    draftedSheet: build.query<DraftedSheet | null, string>({
      query: (from) => `/stocks/draft?from=${encodeURIComponent(from)}`,
      keepUnusedDataFor: 0,
    }),
    keepDraftedSheet: build.mutation<{ version: number }, { from: string } & DraftedSheet>({
      query: ({ from, ...body }) => lasting({ url: `/stocks/draft?from=${encodeURIComponent(from)}`, method: 'PUT', body }),
    }),
    endDraftedSheet: build.mutation<object, string>({
      query: (from) => ({ url: `/stocks/draft?from=${encodeURIComponent(from)}`, method: 'DELETE' }),
    }),
  }),
});
export const { useStocksQuery, useCreateStockMutation, useSaveStockMutation, useStockRevisionsQuery, useTakeOutStockMutation } = stockApi;
