/** Whether Tab stops at an element. Read off its attribute: the property lays the whole page out first. */
export const isStop = (e: Element): boolean => e.getAttribute('tabindex') === '0';
/** Makes one of some elements the only one that Tab stops at; none where there is none. */
export function makeStop(all: readonly Element[], at: Element | undefined): void {
  for (const e of all) {
    const wanted = e === at ? '0' : '-1';
    if (e.getAttribute('tabindex') !== wanted) e.setAttribute('tabindex', wanted);
  }
}
