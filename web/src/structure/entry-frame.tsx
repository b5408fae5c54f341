import { Button } from 'antd';
import { useWords } from '../texts/words';
import { Problems } from '../ui/problems';
import { listWords } from './list-words';

type FrameProps = {
  lead: string;
  submit: string;
  isReady: boolean;
  isBusy: boolean;
  error: Error | null;
  onSubmit: () => void;
  /** Left out: there is nothing to leave it for. */
  onLeave?: () => void;
  children: React.ReactNode;
};

/** An act on an entry of a list: what it does, what it asks, what is wrong, done or left. */
export const EntryFrame = ({
  lead,
  submit,
  isReady,
  isBusy,
  error,
  onSubmit,
  onLeave,
  children,
}: FrameProps) => {
  const words = useWords(listWords);
  return (
    <form
      className="entryform"
      onSubmit={(event) => {
        event.preventDefault();
        // over a slip its own form would hear it too
        event.stopPropagation();
        if (isReady && !isBusy) onSubmit();
      }}
    >
      <p className="source">{lead}</p>
      {children}
      <Problems of={error} />
      <Button type="primary" htmlType="submit" disabled={!isReady} loading={isBusy}>
        {submit}
      </Button>{' '}
      {onLeave && (
        <Button type="text" onClick={onLeave}>
          {words.leave}
        </Button>
      )}
    </form>
  );
};
