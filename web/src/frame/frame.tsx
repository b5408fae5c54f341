import { Suspense, useEffect, useLayoutEffect, useState } from 'react';
import { accessEndpoints } from '@gremium/contract';
import { useQuery } from '@tanstack/react-query';
import { ConfigProvider } from 'antd';
import { useTranslation } from 'react-i18next';
import { Route, Routes } from 'react-router';
import { call } from '../api';
import { type Mode, customProperties, themeOf } from '../tokens';
import { localeOf } from './locale';
import { SessionContext } from './session';
import { lazily } from '../ui/lazily';

// Who is signed in needs no entrance, and the other way round: neither stands in the first script.
const Entrance = lazily(async () => (await import('../access/entrance')).Entrance);
const FirstAdministrator = lazily(
  async () => (await import('../access/first-administrator')).FirstAdministrator,
);
const SetPassword = lazily(async () => (await import('../access/set-password')).SetPassword);
const Inside = lazily(async () => (await import('./inside')).Inside);

const keptMode = (): Mode =>
  (localStorage.getItem('gremium-theme') as Mode | null) ??
  (matchMedia('(prefers-color-scheme: dark)').matches ? 'dark' : 'light');

/** Theme, language and who is signed in, around everything. */
export const Frame = () => {
  const { t, i18n } = useTranslation();
  const [mode, setMode] = useState(keptMode);
  const session = useQuery({
    queryKey: ['session'],
    queryFn: () => call(accessEndpoints.whoAmI, {}),
    retry: false,
    staleTime: Infinity,
  });
  const keepMode = (next: Mode) => {
    localStorage.setItem('gremium-theme', next);
    setMode(next);
  };
  useEffect(() => {
    document.documentElement.lang = i18n.language;
  }, [i18n.language]);
  // on the root, because dialogs and popovers are drawn outside the page
  useLayoutEffect(() => {
    const { style } = document.documentElement;
    for (const [name, value] of Object.entries(customProperties(mode))) style.setProperty(name, value);
  }, [mode]);
  return (
    <ConfigProvider theme={themeOf(mode)} locale={localeOf(i18n.language)}>
      <div className="page" data-theme={mode}>
        <Suspense fallback={<main className="waiting">{t('waiting')}</main>}>
          <Routes>
            <Route path="/first-administrator" element={<FirstAdministrator />} />
            <Route path="/password" element={<SetPassword />} />
            <Route
              path="*"
              element={
                session.data ? (
                  <SessionContext.Provider value={{ session: session.data, mode }}>
                    <Inside onMode={keepMode} />
                  </SessionContext.Provider>
                ) : session.isPending ? (
                  <main className="entrance">{t('waiting')}</main>
                ) : (
                  <Entrance mode={mode} onMode={keepMode} />
                )
              }
            />
          </Routes>
        </Suspense>
      </div>
    </ConfigProvider>
  );
};
