import type { HudView } from 'jocus/engine';

/** What each element was last drawn from; the session gives the same object where nothing has changed. */
const drawn = new WeakMap<HTMLElement, HudView>();

/** Draws the HUD, one corner for each place; only what has changed is touched. */
export function showHud(hud: HTMLElement, views: readonly HudView[]): void {
  const corners = new Map<string, HudView[]>();
  for (const view of views) corners.set(view.at, [...(corners.get(view.at) ?? []), view]);
  for (const corner of [...hud.children] as HTMLElement[]) {
    if (!corners.has(corner.dataset.at ?? '')) corner.remove();
  }
  for (const [at, items] of corners) {
    let corner = hud.querySelector<HTMLElement>(`[data-at="${at}"]`);
    if (corner === null) {
      corner = document.createElement('div');
      corner.className = 'corner';
      corner.dataset.at = at;
      corner.style.gridArea = at;
      hud.append(corner);
    }
    while (corner.childElementCount > items.length) corner.lastElementChild?.remove();
    items.forEach((view, index) => {
      const item = (corner.children[index] as HTMLElement | undefined) ?? corner.appendChild(makeItem());
      if (drawn.get(item) !== view) fill(item, view);
    });
  }
}

function makeItem(): HTMLElement {
  const item = document.createElement('span');
  item.setAttribute('role', 'img');
  item.append(document.createElement('span'), document.createElement('b'));
  return item;
}

function fill(item: HTMLElement, view: HudView): void {
  const [label, value] = item.children as unknown as [HTMLElement, HTMLElement];
  label.textContent = view.as === 'text' ? '' : `${view.label} `;
  value.textContent = view.text;
  item.setAttribute('aria-label', view.spoken);
  item.dataset.show = view.show ?? '';
  drawn.set(item, view);
}
