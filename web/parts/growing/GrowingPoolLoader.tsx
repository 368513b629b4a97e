'use client';
import dynamic from 'next/dynamic';

/** Comes with the view it is on: the unit's other views do without its form. */
export const GrowingPoolLoader = dynamic(() => import('./GrowingPool').then((part) => part.GrowingPool));
