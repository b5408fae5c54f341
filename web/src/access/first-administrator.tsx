import { useState } from 'react';
import { accessEndpoints } from '@gremium/contract';
import { useMutation } from '@tanstack/react-query';
import { Button, Input } from 'antd';
import { useTranslation } from 'react-i18next';
import { Link, useLocation } from 'react-router';
import { call } from '../api';
import { Problems } from '../ui/problems';

/** Opened by the one-time link that the first start on an empty database prints; the token stands after the #. */
export const FirstAdministrator = () => {
  const { t } = useTranslation();
  const { hash } = useLocation();
  const [fields, setFields] = useState({ name: '', email: '', password: '' });
  const make = useMutation({
    mutationFn: () => call(accessEndpoints.firstAdministrator, { body: { ...fields, token: hash.slice(1) } }),
  });
  const labels = { name: t('first.name'), email: t('entrance.email'), password: t('entrance.password') };
  if (make.isSuccess)
    return (
      <main className="entrance">
        <h1>{t('first.title')}</h1>
        <p>{t('first.done')}</p>
        <Link to="/">{t('entrance.signIn')}</Link>
      </main>
    );
  return (
    <main className="entrance">
      <h1>{t('first.title')}</h1>
      <p className="what">{t('first.what')}</p>
      <Problems of={make.error} />
      <form
        onSubmit={(event) => {
          event.preventDefault();
          make.mutate();
        }}
      >
        {(['name', 'email', 'password'] as const).map((field) => (
          <div key={field} style={{ marginBottom: 12 }}>
            <label htmlFor={field}>{labels[field]}</label>
            <Input
              id={field}
              type={field === 'password' ? 'password' : 'text'}
              variant="underlined"
              autoComplete={field === 'password' ? 'new-password' : field}
              value={fields[field]}
              onChange={(event) => setFields({ ...fields, [field]: event.target.value })}
            />
          </div>
        ))}
        <Button type="primary" htmlType="submit" loading={make.isPending}>
          {t('first.make')}
        </Button>
      </form>
    </main>
  );
};
