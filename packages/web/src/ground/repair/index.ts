export { useDustAcrossMutation, useMendDustMutation, usePutRepairsMutation, type DustShared } from './repairApi.ts';
