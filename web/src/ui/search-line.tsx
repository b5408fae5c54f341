import { useEffect, useRef, useState } from 'react';
import { Input } from 'antd';
import { useKeys } from '../frame/keys';
import { later } from '../under-way';

/** A line to search in a list; `/` goes to it. */
export const SearchLine = ({
  value,
  onChange,
  label,
}: {
  value: string;
  onChange: (text: string) => void;
  label: string;
}) => {
  const [element, setElement] = useState<HTMLInputElement | null>(null);
  const [text, setText] = useState(value);
  const callOff = useRef<() => void>(undefined);
  useKeys({ search: () => element?.focus() });
  // what is typed stands here at once; the address follows a moment later
  useEffect(() => {
    if (callOff.current === undefined) setText(value);
  }, [value]);
  const type = (next: string) => {
    setText(next);
    callOff.current?.();
    callOff.current = later(150, () => {
      callOff.current = undefined;
      onChange(next);
    });
  };
  return (
    <Input
      ref={(input) => setElement(input?.input ?? null)}
      variant="underlined"
      allowClear
      aria-label={label}
      placeholder={label}
      value={text}
      onChange={(event) => type(event.target.value)}
    />
  );
};
