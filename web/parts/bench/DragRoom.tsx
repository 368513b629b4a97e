'use client';
import {
  DndContext,
  DragOverlay,
  KeyboardSensor,
  MouseSensor,
  TouchSensor,
  closestCenter,
  pointerWithin,
  useSensor,
  useSensors,
  type Announcements,
  type CollisionDetection,
  type UniqueIdentifier,
} from '@dnd-kit/core';
import { useState, type ReactNode } from 'react';
import { arrowTo } from './arrowTo';
import { spotOf, type Spot } from './dragged';

interface Props {
  /** What a spot is called when it is read aloud: "bay 3, 8 TB". */
  readonly nameOf: (spot: Spot) => string;
  /** The drive in hand, as it looks under way. */
  readonly inHand: (spot: Spot) => ReactNode;
  readonly onPut: (from: Spot, to: Spot) => void;
  readonly children: ReactNode;
}

/** What lies under the pointer; with the keyboard, under the middle of what is carried, or else the nearest. */
const met: CollisionDetection = (args) => {
  if (args.pointerCoordinates) return pointerWithin(args);
  const { left, top, width, height } = args.collisionRect;
  const under = pointerWithin({ ...args, pointerCoordinates: { x: left + width / 2, y: top + height / 2 } });
  return under.length > 0 ? under : closestCenter(args);
};

/** Where drives are carried from bay to bay, out of the drawer and into it: by mouse, by finger (pressed long), by keyboard. */
export function DragRoom({ nameOf, inHand, onPut, children }: Props): ReactNode {
  const [held, setHeld] = useState<UniqueIdentifier | null>(null);
  const sensors = useSensors(
    // A press without a move is a press: it opens the bay.
    useSensor(MouseSensor, { activationConstraint: { distance: 6 } }),
    useSensor(TouchSensor, { activationConstraint: { delay: 250, tolerance: 8 } }),
    // Enter opens the bay; Space takes the drive in hand.
    useSensor(KeyboardSensor, {
      coordinateGetter: arrowTo,
      keyboardCodes: { start: ['Space'], end: ['Space', 'Enter'], cancel: ['Escape'] },
    }),
  );
  const said = (id: UniqueIdentifier): string => nameOf(spotOf(id));
  const announcements: Announcements = {
    onDragStart: ({ active }) => `In hand: ${said(active.id)}.`,
    onDragOver: ({ active, over }) => {
      if (!over) return 'Over nothing that takes it.';
      return over.id === active.id ? `In hand: ${said(active.id)}.` : `Over ${said(over.id)}.`;
    },
    onDragEnd: ({ active, over }) => (over && over.id !== active.id ? `Put at ${said(over.id)}.` : 'Put back.'),
    onDragCancel: () => 'Put back.',
  };
  return (
    <DndContext
      id="bench"
      sensors={sensors}
      collisionDetection={met}
      accessibility={{
        announcements,
        screenReaderInstructions: {
          draggable:
            'Enter opens the bay. Space takes the drive in hand; the arrow keys carry it, Space puts it down, Escape puts it back.',
        },
      }}
      onDragStart={({ active }) => setHeld(active.id)}
      onDragCancel={() => setHeld(null)}
      onDragEnd={({ active, over }) => {
        setHeld(null);
        if (over && over.id !== active.id) onPut(spotOf(active.id), spotOf(over.id));
      }}
    >
      {children}
      <DragOverlay dropAnimation={null}>{held !== null && inHand(spotOf(held))}</DragOverlay>
    </DndContext>
  );
}
