import type { UnitPlace } from '@abyssal/core';
import { createContext, useContext } from 'react';

const Shown = createContext<readonly UnitPlace[]>([]);

/** Gives the chains that are shown together, from the top down. */
export const Places = Shown.Provider;
export const usePlaces = () => useContext(Shown);
