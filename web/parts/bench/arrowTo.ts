import { KeyboardCode, type KeyboardCoordinateGetter } from '@dnd-kit/core';

/** How much further a spot counts that lies aside of the way an arrow points. */
const ASIDE = 3;

/** An arrow key carries to the nearest spot that lies its way, not a few pixels on. */
export const arrowTo: KeyboardCoordinateGetter = (event, { context, currentCoordinates }) => {
  const { collisionRect, droppableRects, droppableContainers, over } = context;
  if (!collisionRect) return undefined;
  const way = {
    [KeyboardCode.Right as string]: { x: 1, y: 0 },
    [KeyboardCode.Left]: { x: -1, y: 0 },
    [KeyboardCode.Down]: { x: 0, y: 1 },
    [KeyboardCode.Up]: { x: 0, y: -1 },
  }[event.code];
  if (!way) return undefined;
  event.preventDefault();
  const from = {
    x: collisionRect.left + collisionRect.width / 2,
    y: collisionRect.top + collisionRect.height / 2,
  };
  let nearest: { readonly x: number; readonly y: number; readonly length: number } | null = null;
  for (const { id } of droppableContainers.getEnabled()) {
    const rect = droppableRects.get(id);
    if (!rect || id === over?.id) continue;
    // The drawer is one wide row: it is met where the drive hangs over it.
    const x = Math.min(Math.max(from.x, rect.left + collisionRect.width / 2), rect.right - collisionRect.width / 2);
    const to = rect.width > collisionRect.width * 2 ? x : rect.left + rect.width / 2;
    const [dx, dy] = [to - from.x, rect.top + rect.height / 2 - from.y];
    const along = dx * way.x + dy * way.y;
    const length = along + ASIDE * Math.abs(dx * way.y + dy * way.x);
    if (along > 1 && (nearest === null || length < nearest.length)) nearest = { x: dx, y: dy, length };
  }
  return nearest ? { x: currentCoordinates.x + nearest.x, y: currentCoordinates.y + nearest.y } : undefined;
};
