// A file of a row: sent as soon as it is chosen, and kept until the row that names it is saved.
import { type FileRef, keptFileEndpoints } from '@gremium/contract';
import { useMutation } from '@tanstack/react-query';
import { Button } from 'antd';
import { useRef } from 'react';
import { upload } from '../api';
import { useFormat } from '../texts/format';
import { useWords } from '../texts/words';
import { fileWords } from './file-words';
import { Problems } from './problems';

type InputProps = { id: string; label?: string; value: unknown; onChange: (value: unknown) => void };

/** Chooses a file, by hand or dropped; what it is, is said by its content. */
export const FileInput = ({ id, label, value, onChange }: InputProps) => {
  const words = useWords(fileWords);
  const format = useFormat();
  const box = useRef<HTMLInputElement>(null);
  const file = value as FileRef | null | undefined;
  const sending = useMutation({
    mutationFn: (chosen: File) =>
      upload(keptFileEndpoints.keepFile, { query: { name: chosen.name } }, chosen),
    onSuccess: onChange,
  });
  const take = (chosen: File | undefined) => {
    if (chosen) sending.mutate(chosen);
    // the same file may be chosen again after it was mended
    if (box.current) box.current.value = '';
  };
  return (
    <div
      className="fileinput"
      onDragOver={(event) => event.preventDefault()}
      onDrop={(event) => {
        event.preventDefault();
        take(event.dataTransfer.files[0]);
      }}
    >
      {file && (
        <p>
          {file.name} <span className="soft">{format.size(file.bytes)}</span>{' '}
          <button type="button" className="textact" onClick={() => onChange(null)}>
            {words.remove}
          </button>
        </p>
      )}
      <input
        ref={box}
        id={id}
        type="file"
        className="hidden"
        aria-label={label ?? words.choose}
        onChange={(event) => take(event.target.files?.[0])}
      />
      <Button size="small" loading={sending.isPending} onClick={() => box.current?.click()}>
        {file ? words.other : words.choose}
      </Button>
      <div className="source">{sending.isPending ? words.sending : words.lead}</div>
      <Problems of={sending.error} />
    </div>
  );
};
