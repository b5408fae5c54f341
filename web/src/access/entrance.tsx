import { Logo } from '../ui/logo';
import { useState } from 'react';
import { accessEndpoints } from '@gremium/contract';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { Button, Input } from 'antd';
import { useTranslation } from 'react-i18next';
import { call } from '../api';
import type { Texts } from '../texts/en';
import { setLanguage } from '../texts/i18n';
import type { Mode } from '../tokens';
import { Mark } from '../ui/mark';
import { Problems } from '../ui/problems';

/** The sign-in page; a demo lists its accounts. */
export const Entrance = ({ mode, onMode }: { mode: Mode; onMode: (mode: Mode) => void }) => {
  const { t, i18n } = useTranslation();
  const other = mode === 'dark' ? 'light' : 'dark';
  const queries = useQueryClient();
  const [email, setEmail] = useState('');
  const [password, setPassword] = useState('');
  const entrance = useQuery({ queryKey: ['entrance'], queryFn: () => call(accessEndpoints.entrance, {}) });
  const signIn = useMutation({
    mutationFn: (body: { email: string; password: string }) =>
      call(accessEndpoints.signIn, { body: { email: body.email, password: body.password } }),
    onSuccess: (session) => queries.setQueryData(['session'], session),
  });
  const accounts = entrance.data?.demoAccounts ?? [];
  return (
    <main className="entrance">
      <div className="brand">
        <Mark />
        <span className="name">Gremium</span>
        <span className="end">
          <Button type="text" size="small" onClick={() => onMode(other)}>
            {t(`theme.${other}`)}
          </Button>
          <Button
            type="text"
            size="small"
            onClick={() => void setLanguage(i18n.language === 'de' ? 'en' : 'de')}
          >
            {t('language')}
          </Button>
        </span>
      </div>
      <h1>{t('entrance.title')}</h1>
      {entrance.data?.logo && <Logo of={entrance.data.logo} height={48} />}
      <p className="what">{entrance.data?.organisation}</p>
      <Problems of={signIn.error} />
      <form
        onSubmit={(event) => {
          event.preventDefault();
          signIn.mutate({ email, password });
        }}
      >
        <label htmlFor="email">{t('entrance.email')}</label>
        <Input
          id="email"
          variant="underlined"
          autoComplete="username"
          value={email}
          onChange={(e) => setEmail(e.target.value)}
        />
        <label htmlFor="password" style={{ display: 'block', marginTop: 12 }}>
          {t('entrance.password')}
        </label>
        <Input
          id="password"
          type="password"
          variant="underlined"
          autoComplete="current-password"
          value={password}
          onChange={(e) => setPassword(e.target.value)}
        />
        <Button type="primary" htmlType="submit" loading={signIn.isPending} style={{ marginTop: 24 }}>
          {t('entrance.signIn')}
        </Button>
      </form>
      {accounts.length > 0 && (
        <section className="demo" aria-label={t('entrance.demo')}>
          <div style={{ marginBottom: 8, fontWeight: 600 }}>{t('entrance.demo')}</div>
          {accounts.map((account) => (
            <button key={account.email} type="button" onClick={() => signIn.mutate(account)}>
              <span className="who">{account.name}</span>
              <span className="what">
                {t(`entrance.what.${account.what as keyof Texts['entrance']['what']}`)}
              </span>
            </button>
          ))}
        </section>
      )}
    </main>
  );
};
