import { accessEndpoints } from '@gremium/contract';
import { useMutation } from '@tanstack/react-query';
import { Button, Input } from 'antd';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { Link, useLocation } from 'react-router';
import { call } from '../api';
import { Problems } from '../ui/problems';

/** Opened by a one-time link that whoever lets others in made; the token stands after the #. */
export const SetPassword = () => {
  const { t } = useTranslation();
  const { hash } = useLocation();
  const [password, setPassword] = useState('');
  const set = useMutation({
    mutationFn: () => call(accessEndpoints.setPassword, { body: { password, token: hash.slice(1) } }),
  });
  if (set.isSuccess)
    return (
      <main className="entrance">
        <h1>{t('setPassword.title')}</h1>
        <p>{t('setPassword.done')}</p>
        <Link to="/">{t('entrance.signIn')}</Link>
      </main>
    );
  return (
    <main className="entrance">
      <h1>{t('setPassword.title')}</h1>
      <p className="what">{t('setPassword.what')}</p>
      <Problems of={set.error} />
      <form
        onSubmit={(event) => {
          event.preventDefault();
          set.mutate();
        }}
      >
        <label htmlFor="password">{t('entrance.password')}</label>
        <Input
          id="password"
          type="password"
          variant="underlined"
          autoComplete="new-password"
          value={password}
          onChange={(event) => setPassword(event.target.value)}
        />
        <Button type="primary" htmlType="submit" loading={set.isPending} style={{ marginTop: 16 }}>
          {t('setPassword.set')}
        </Button>
      </form>
    </main>
  );
};
