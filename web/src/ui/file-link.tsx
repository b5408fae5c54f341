// A file that a row names: looked at in its place where its kind can be, else saved.
import { type FileRef, type SectionName, keptFileEndpoints } from '@gremium/contract';
import { useQuery } from '@tanstack/react-query';
import { Modal } from 'antd';
import { useState } from 'react';
import { addressOf } from '../api';
import { useLens } from '../frame/lens';
import { useFormat } from '../texts/format';
import { useWords } from '../texts/words';
import { fileWords } from './file-words';

type LinkProps = { section: SectionName; thing: number; row: number; field: string; file: FileRef };

const PICTURES: readonly string[] = ['png', 'jpg', 'webp'];
const SHOWN = [...PICTURES, 'pdf', 'txt'];

/** The name of a file with its size; pressed, it is shown or saved. */
export const FileLink = ({ file, ...of }: LinkProps) => {
  const words = useWords(fileWords);
  const format = useFormat();
  const [isOpen, setOpen] = useState(false);
  const { known } = useLens();
  const at = (query: { shown?: 'yes' }) =>
    addressOf(keptFileEndpoints.fileOfRow, {
      params: of,
      query: { ...query, ...(known ? { recordedBy: known } : {}) },
    });
  const isShown = SHOWN.includes(file.type);
  return (
    <>
      {isShown ? (
        <button
          type="button"
          className="textact"
          aria-label={words.show(file.name)}
          onClick={() => setOpen(true)}
        >
          {file.name}
        </button>
      ) : (
        <a href={at({})}>{file.name}</a>
      )}{' '}
      <span className="soft">{format.size(file.bytes)}</span>
      <Modal
        open={isOpen}
        title={file.name}
        width={860}
        className="filedialog"
        destroyOnHidden
        onCancel={() => setOpen(false)}
        footer={<a href={at({})}>{words.save}</a>}
      >
        <Shown file={file} address={at({ shown: 'yes' })} />
      </Modal>
    </>
  );
};

const Shown = ({ file, address }: { file: FileRef; address: string }) => {
  if (PICTURES.includes(file.type)) return <img src={address} alt={file.name} />;
  if (file.type === 'txt') return <PlainText address={address} />;
  return <iframe src={address} title={file.name} />;
};

const MOST = 200_000;

// Text is put into the page as text: nothing in it can do anything.
const PlainText = ({ address }: { address: string }) => {
  const { data } = useQuery({
    queryKey: ['file text', address],
    queryFn: async () => (await (await fetch(address)).text()).slice(0, MOST),
    meta: { reads: [] },
  });
  return <pre>{data}</pre>;
};
