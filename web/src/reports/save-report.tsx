import {
  type ReportKept,
  type ReportOut,
  type ReportShare,
  RoleName,
  type ViewDefinition,
} from '@gremium/contract';
import { Button, Checkbox, Input, Modal } from 'antd';
import { useState } from 'react';
import { useGo } from '../frame/lens';
import { useWords } from '../texts/words';
import { EntryField } from '../ui/entry-field';
import { Problems } from '../ui/problems';
import { reportWords } from './report-words';
import { useKeepReport } from './reports.queries';

type SaveProps = { kept: ReportOut | undefined; view: ViewDefinition };

/** Keeps a report: as it now is where one may shape it, or as a new one, with its folder, tags and whom it is shared with. */
export const SaveReport = ({ kept, view }: SaveProps) => {
  const words = useWords(reportWords);
  const go = useGo();
  const { save } = useKeepReport();
  const [isOpen, setOpen] = useState(false);
  const [said, setSaid] = useState('');
  const keep = (id: number | null, report: ReportKept) =>
    save.mutate(
      { id, kept: report },
      {
        onSuccess: (done) => {
          setOpen(false);
          setSaid(words.saved(done.name));
          go(`/reports/list/${done.id}`, { view: null });
        },
      },
    );
  const own = kept?.mayShape ? kept : undefined;
  return (
    <span className="saveacts">
      {said && <span className="moss">✓ {said}</span>}
      {own && (
        <Button
          type="primary"
          loading={save.isPending}
          onClick={() => {
            const { name, folder, tags, shared } = own;
            keep(own.id, { name, folder, tags, shared, view });
          }}
        >
          {words.save}
        </Button>
      )}
      <Button type={own ? 'text' : 'primary'} onClick={() => setOpen(true)}>
        {words.saveAs}
      </Button>
      {isOpen && (
        <SaveForm
          kept={kept}
          view={view}
          error={save.error}
          isBusy={save.isPending}
          onSave={(report) => keep(null, report)}
          onLeave={() => setOpen(false)}
        />
      )}
    </span>
  );
};

type FormProps = SaveProps & {
  error: Error | null;
  isBusy: boolean;
  onSave: (report: ReportKept) => void;
  onLeave: () => void;
};

/** Name, folder, tags and whom it is shared with: what is asked before a report is kept. */
export const SaveForm = ({ kept, view, error, isBusy, onSave, onLeave }: FormProps) => {
  const words = useWords(reportWords);
  const [name, setName] = useState('');
  const [folder, setFolder] = useState(kept?.isMine ? kept.folder : '');
  const [tags, setTags] = useState('');
  const [roles, setRoles] = useState<readonly string[]>([]);
  const [account, setAccount] = useState('');
  const [mayShape, setMayShape] = useState(false);
  const shared = (): ReportShare[] => {
    const may = mayShape ? ('shape' as const) : ('view' as const);
    return [
      ...roles.map((role) => ({ role: role as RoleName, may })),
      ...(account.trim() === '' ? [] : [{ account: account.trim(), may }]),
    ];
  };
  const line = (
    id: string,
    label: string,
    value: string,
    onChange: (value: string) => void,
    isFirst = false,
  ) => (
    <EntryField id={id} label={label}>
      <Input
        id={id}
        aria-label={label}
        autoFocus={isFirst}
        autoComplete="off"
        maxLength={120}
        className="line-input"
        variant="underlined"
        value={value}
        onChange={(event) => onChange(event.target.value)}
      />
    </EntryField>
  );
  return (
    <Modal open footer={null} title={words.saveAs} onCancel={onLeave} width={560}>
      <form
        className="saveform"
        onSubmit={(event) => {
          event.preventDefault();
          const said = tags.split(',').map((tag) => tag.trim());
          onSave({
            name: name.trim(),
            folder: folder.trim(),
            tags: said.filter(Boolean),
            shared: shared(),
            view,
          });
        }}
      >
        {line('report-name', words.name, name, setName, true)}
        {line('report-folder', words.folder, folder, setFolder)}
        {line('report-tags', words.tagsHelp, tags, setTags)}
        <p>{words.share}</p>
        <Checkbox.Group
          value={[...roles]}
          onChange={(chosen) => setRoles(chosen)}
          options={RoleName.options.map((role) => ({ value: role, label: words.roles[role] }))}
        />
        {line('report-account', words.person, account, setAccount)}
        <Checkbox checked={mayShape} onChange={(event) => setMayShape(event.target.checked)}>
          {words.mayShape}
        </Checkbox>
        <p className="soft">{words.shareHelp}</p>
        <Problems of={error} />
        <p>
          <Button type="primary" htmlType="submit" disabled={name.trim() === ''} loading={isBusy}>
            {words.save}
          </Button>{' '}
          <Button type="text" onClick={onLeave}>
            {words.leave}
          </Button>
        </p>
      </form>
    </Modal>
  );
};
