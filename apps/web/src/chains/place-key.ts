import type { UnitPlace } from '@abyssal/core';

/** A place as one word, for lists and drags. */
export const placeKey = (place: UnitPlace): string => ('id' in place ? `${place.in} ${place.id}` : place.in);
