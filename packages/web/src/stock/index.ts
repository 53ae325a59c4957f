export { StockCards } from './StockCards.tsx';
export { useCreateStockMutation, useStocksQuery } from './stockApi.ts';
