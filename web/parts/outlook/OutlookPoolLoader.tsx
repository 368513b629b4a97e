'use client';
import dynamic from 'next/dynamic';

/** Comes with the view it is on: the unit's other views do without it. */
export const OutlookPoolLoader = dynamic(() => import('./OutlookPool').then((part) => part.OutlookPool));
