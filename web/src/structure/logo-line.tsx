import { pictureEndpoints } from '@gremium/contract';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { upload } from '../api';
import { useMay, useSession } from '../frame/session';
import { useWords } from '../texts/words';
import { refreshTouched } from '../time/touched';
import { Logo } from '../ui/logo';
import { Problems } from '../ui/problems';
import { organisationWords } from './organisation-words';

/** The logo of the organisation, and another one in its place. */
export const LogoLine = () => {
  const words = useWords(organisationWords);
  const may = useMay();
  const { logo } = useSession();
  const queries = useQueryClient();
  const save = useMutation({
    mutationFn: (file: File) => upload(pictureEndpoints.recordLogo, {}, file),
    onSuccess: ({ touched }) => refreshTouched(queries, touched),
  });
  return (
    <section className="block" id="section-logo">
      <h2>{words.logo}</h2>
      {logo ? <Logo of={logo} height={48} /> : <p className="soft">{words.noLogo}</p>}
      {may.edit('organisation') && (
        <label className="logofile">
          <span className="source">{words.logoLead}</span>
          <input
            type="file"
            accept="image/jpeg,image/png,image/webp"
            onChange={(event) => {
              const [file] = event.target.files ?? [];
              if (file) save.mutate(file);
            }}
          />
        </label>
      )}
      <Problems of={save.error} />
    </section>
  );
};
