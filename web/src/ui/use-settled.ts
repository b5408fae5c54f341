import { useEffect, useState } from 'react';

/** A value once it has not changed for so many milliseconds. */
export const useSettled = <T>(value: T, after: number): T => {
  const [settled, setSettled] = useState(value);
  const text = JSON.stringify(value);
  useEffect(() => {
    const timer = setTimeout(() => setSettled(JSON.parse(text) as T), after);
    return () => clearTimeout(timer);
  }, [text, after]);
  return settled;
};
