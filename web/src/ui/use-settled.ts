import { useEffect, useState } from 'react';
import { later } from '../under-way';

/** A value once it has not changed for so many milliseconds. */
export const useSettled = <T>(value: T, after: number): T => {
  const [settled, setSettled] = useState(value);
  const text = JSON.stringify(value);
  useEffect(() => {
    return later(after, () => setSettled(JSON.parse(text) as T));
  }, [text, after]);
  return settled;
};
