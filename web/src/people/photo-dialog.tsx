import { type SectionName, pictureEndpoints } from '@gremium/contract';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { Button, Modal, Slider } from 'antd';
import { useEffect, useState } from 'react';
import Cropper, { type Area } from 'react-easy-crop';
import 'react-easy-crop/react-easy-crop.css';
import { call, upload } from '../api';
import { useWords } from '../texts/words';
import { refreshTouched } from '../time/touched';
import { Problems } from '../ui/problems';
import { portraitWords } from './portrait-words';

type DialogProps = { id: number; name: string; hasPhoto: boolean; onClose: () => void };

/** A picture chosen, moved under a square, and saved as somebody's photo; or the one there taken off. */
export const PhotoDialog = ({ id, name, hasPhoto, onClose }: DialogProps) => {
  const words = useWords(portraitWords);
  const queries = useQueryClient();
  const [chosen, setChosen] = useState<{ file: File; url: string } | null>(null);
  const url = chosen?.url;
  useEffect(() => () => (url ? URL.revokeObjectURL(url) : undefined), [url]);
  const [at, setAt] = useState({ x: 0, y: 0 });
  const [zoom, setZoom] = useState(1);
  const [area, setArea] = useState<Area | null>(null);
  const done = async ({ touched }: { touched: readonly SectionName[] }) => {
    await refreshTouched(queries, touched);
    onClose();
  };
  const save = useMutation({
    mutationFn: (of: File) => {
      const square = area && {
        left: Math.max(0, Math.round(area.x)),
        top: Math.max(0, Math.round(area.y)),
        edge: Math.round(area.width),
      };
      return upload(pictureEndpoints.recordPhoto, { params: { id }, query: square ?? {} }, of);
    },
    onSuccess: done,
  });
  const remove = useMutation({
    mutationFn: () => call(pictureEndpoints.removePhoto, { params: { id } }),
    onSuccess: done,
  });
  return (
    <Modal
      open
      footer={null}
      title={words.title(name)}
      onCancel={onClose}
      width={480}
      className="photodialog"
    >
      <p className="source">{words.lead}</p>
      <input
        type="file"
        aria-label={words.choose}
        accept="image/jpeg,image/png,image/webp"
        onChange={(event) => {
          const [file] = event.target.files ?? [];
          setChosen(file ? { file, url: URL.createObjectURL(file) } : null);
          setArea(null);
          save.reset();
        }}
      />
      {url && (
        <>
          <div className="cropper">
            <Cropper
              image={url}
              aspect={1}
              crop={at}
              zoom={zoom}
              onCropChange={setAt}
              onZoomChange={setZoom}
              onCropComplete={(_, pixels) => setArea(pixels)}
            />
          </div>
          <Slider
            min={1}
            max={4}
            step={0.05}
            value={zoom}
            onChange={setZoom}
            ariaLabelForHandle={words.zoom}
            tooltip={{ open: false }}
          />
        </>
      )}
      <Problems of={save.error ?? remove.error} />
      <p className="rowacts">
        <Button
          type="primary"
          disabled={!chosen}
          loading={save.isPending}
          onClick={() => chosen && save.mutate(chosen.file)}
        >
          {words.save}
        </Button>
        {hasPhoto && (
          <Button loading={remove.isPending} onClick={() => remove.mutate()}>
            {words.remove}
          </Button>
        )}
        <Button type="text" onClick={onClose}>
          {words.leave}
        </Button>
      </p>
    </Modal>
  );
};
