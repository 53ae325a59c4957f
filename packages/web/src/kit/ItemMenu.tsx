import { Menu } from '@chakra-ui/react';
import { MenuList } from './MenuList.tsx';
import type { MenuItem } from './LazyMenu.tsx';

/** A menu of items at a button. */
export function ItemMenu({
  trigger,
  items,
  open,
  minW,
  onSelect,
}: {
  trigger: React.ReactElement;
  items: readonly MenuItem[];
  /** it was pressed before this code was there */
  open: boolean;
  minW?: string;
  onSelect: (value: string) => void;
}): React.JSX.Element {
  return (
    <Menu.Root lazyMount unmountOnExit defaultOpen={open} onSelect={({ value }) => onSelect(value)}>
      <Menu.Trigger asChild>{trigger}</Menu.Trigger>
      <MenuList maxH="320px" {...(minW ? { minW } : {})}>
        {items.map(({ value, words, disabled = false }) => (
          <Menu.Item key={value} value={value} disabled={disabled}>
            {words}
          </Menu.Item>
        ))}
      </MenuList>
    </Menu.Root>
  );
}
