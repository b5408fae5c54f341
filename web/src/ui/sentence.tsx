import { Popover, Select } from 'antd';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';

export type Pick = {
  name: string;
  label: string;
  value: string;
  options: { value: string; label: string }[];
  onChange: (value: string) => void;
};

/** A word of a filter sentence, with a dotted underline: a click opens what else it can be. */
export const PickWord = ({ pick }: { pick: Pick }) => {
  const [isOpen, setOpen] = useState(false);
  const shown = pick.options.find(({ value }) => value === pick.value)?.label ?? pick.value;
  return (
    <Popover
      trigger="click"
      open={isOpen}
      onOpenChange={setOpen}
      placement="bottomLeft"
      destroyOnHidden
      content={
        <Select
          autoFocus
          defaultOpen
          aria-label={pick.label}
          showSearch={{ optionFilterProp: 'label' }}
          style={{ width: 260 }}
          value={pick.value}
          options={pick.options}
          onChange={(value) => {
            setOpen(false);
            pick.onChange(value);
          }}
        />
      }
    >
      <button type="button" className="pick" aria-label={`${pick.label}: ${shown}`}>
        {shown}
      </button>
    </Popover>
  );
};

/** The same filters as a form, for those who would rather fill one in. */
export const AddFilter = ({ picks }: { picks: Pick[] }) => {
  const { t } = useTranslation();
  return (
    <Popover
      trigger="click"
      placement="bottomLeft"
      content={
        <div className="filterform">
          {picks.map((pick) => (
            <label key={pick.name} htmlFor={`filter-${pick.name}`}>
              <span>{pick.label}</span>
              <Select
                id={`filter-${pick.name}`}
                variant="underlined"
                showSearch={{ optionFilterProp: 'label' }}
                value={pick.value}
                options={pick.options}
                onChange={pick.onChange}
              />
            </label>
          ))}
        </div>
      }
    >
      <button type="button" className="textact">
        {t('filter.add')}
      </button>
    </Popover>
  );
};
