import { expect, it, jest } from '@jest/globals';
import { arrowTo } from './arrowTo';

/** Two rows of three bays of 100 by 100, and a drawer over the whole width below them. */
const rect = (left: number, top: number, width = 100) => ({
  left,
  top,
  width,
  height: 100,
  right: left + width,
  bottom: top + 100,
});
const RECTS = new Map([
  ...[0, 1, 2].flatMap((column) =>
    [0, 1].map((line) => [`${String(line)}${String(column)}`, rect(column * 110, line * 110)] as const),
  ),
  ['drawer', rect(0, 300, 320)] as const,
]);

function carried(from: string, code: string): string | null {
  const start = RECTS.get(from) ?? rect(0, 0);
  const to = arrowTo({ code, preventDefault: jest.fn() } as never, {
    active: '',
    currentCoordinates: { x: start.left, y: start.top },
    context: {
      collisionRect: rect(start.left, start.top),
      droppableRects: RECTS,
      droppableContainers: { getEnabled: () => [...RECTS.keys()].map((id) => ({ id })) },
      over: { id: from },
    } as never,
  });
  if (!to) return null;
  const [x, y] = [to.x + 50, to.y + 50];
  return [...RECTS].find(([, r]) => x > r.left && x < r.right && y > r.top && y < r.bottom)?.[0] ?? 'nowhere';
}

it('carries to the nearest place that way, and nowhere where there is none', () => {
  expect(carried('00', 'ArrowRight')).toBe('01');
  expect(carried('01', 'ArrowDown')).toBe('11');
  expect(carried('12', 'ArrowLeft')).toBe('11');
  expect(carried('12', 'ArrowDown')).toBe('drawer');
  expect(carried('12', 'ArrowUp')).toBe('02');
  expect(carried('00', 'ArrowLeft')).toBeNull();
  expect(carried('00', 'KeyA')).toBeNull();
});
