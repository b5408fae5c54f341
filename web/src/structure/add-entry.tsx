import type { PickList } from '@gremium/contract';
import { Modal } from 'antd';
import { useListActs } from './list-acts';
import { EntryForm } from './entry-form';

type AddProps = { list: PickList; label: string; onAdded: (id: number) => void; onLeave: () => void };

/** An entry that is missing from what can be picked, added over the form that asks for it; that one stays as it is. */
export const AddEntry = ({ list, label, onAdded, onLeave }: AddProps) => {
  const acts = useListActs(list, () => undefined);
  return (
    <Modal
      open
      footer={null}
      title={null}
      closable={false}
      onCancel={onLeave}
      width={640}
      className="addentry"
    >
      {/* the form below it, which it was opened from, hears no keys of it */}
      <div onKeyDown={(event) => event.stopPropagation()}>
        <EntryForm
          list={list}
          label={label}
          error={acts.add.error}
          isBusy={acts.add.isPending}
          onSave={(draft) => acts.add.mutate(draft, { onSuccess: ({ id }) => onAdded(id) })}
          onLeave={onLeave}
        />
      </div>
    </Modal>
  );
};
