import type { Row, PersonPhoto } from '@gremium/contract';
import type { Register } from '@gremium/core';
import { Suspense, lazy, useState } from 'react';
import { useTranslation } from 'react-i18next';
import { useLens } from '../frame/lens';
import { useMay } from '../frame/session';
import { useWords } from '../texts/words';
import { Monogram } from '../ui/monogram';
import { portraitWords } from './portrait-words';

const PhotoDialog = lazy(async () => ({ default: (await import('./photo-dialog')).PhotoDialog }));

type PortraitProps = { id: number; name: string; register: Register; size?: number };

/** The photo of somebody, else their initials; whoever may puts another one in its place. */
export const Portrait = ({ id, name, register, size = 72 }: PortraitProps) => {
  const words = useWords(portraitWords);
  const { t } = useTranslation();
  const may = useMay();
  const { known } = useLens();
  const query: Record<string, string> = known ? { recordedBy: known } : {};
  const [isOpen, setOpen] = useState(false);
  const [row] = register.rows('person_photo', id) as Row<'person_photo'>[];
  const { picture } = (row?.values ?? {}) as Partial<PersonPhoto>;
  const shown = picture ? (
    <img
      className="portrait"
      src={`/api/people/${id}/photo?${new URLSearchParams({ of: picture, ...query })}`}
      alt={words.photoOf(name)}
      width={size}
      height={size}
    />
  ) : (
    <Monogram name={name} size={size} />
  );
  if (!may.edit('person_photo')) return shown;
  return (
    <>
      <button
        type="button"
        className="portraitbutton"
        aria-label={picture ? words.change : words.add}
        title={picture ? words.change : words.add}
        onClick={() => setOpen(true)}
      >
        {shown}
      </button>
      {isOpen && (
        <Suspense fallback={t('waiting')}>
          <PhotoDialog {...{ id, name }} hasPhoto={picture !== undefined} onClose={() => setOpen(false)} />
        </Suspense>
      )}
    </>
  );
};
