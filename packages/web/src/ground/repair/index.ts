export { useDustMutation, useMendDustMutation, usePutRepairsMutation, type DustWish } from './repairApi.ts';
