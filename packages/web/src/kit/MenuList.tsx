import { Menu, Portal } from '@chakra-ui/react';

/** Where menus open: a part of the page of their own, so that they lie in a landmark wherever they come from. */
export const menuPlace = {
  get current(): HTMLElement {
    return document.getElementById('menus') ?? document.body;
  },
};

/** The items of a menu, opened beside what opens it. */
export function MenuList({ children, ...rest }: Menu.ContentProps): React.JSX.Element {
  return (
    <Portal container={menuPlace}>
      <Menu.Positioner>
        <Menu.Content fontSize="13px" {...rest}>
          {children}
        </Menu.Content>
      </Menu.Positioner>
    </Portal>
  );
}
