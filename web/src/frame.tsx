import { type CSSProperties, Suspense, lazy, useState } from 'react';
import { accessEndpoints } from '@gremium/contract';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { Button, ConfigProvider } from 'antd';
import german from 'antd/locale/de_DE';
import english from 'antd/locale/en_GB';
import { useTranslation } from 'react-i18next';
import { Route, Routes } from 'react-router';
import { call } from './api';
import { Entrance } from './access/entrance';
import { FirstAdministrator } from './access/first-administrator';
import { Mark } from './ui/mark';
import { setLanguage } from './texts/i18n';
import { type Mode, customProperties, themeOf } from './tokens';

const PeopleList = lazy(() =>
  import('./people/people-list').then((module) => ({ default: module.PeopleList })),
);

const keptMode = (): Mode =>
  (localStorage.getItem('gremium-theme') as Mode | null) ??
  (matchMedia('(prefers-color-scheme: dark)').matches ? 'dark' : 'light');

/** Everything around a page: theme, language, who is signed in. */
export const Frame = () => {
  const { t, i18n } = useTranslation();
  const queries = useQueryClient();
  const [mode, setMode] = useState(keptMode);
  const session = useQuery({
    queryKey: ['session'],
    queryFn: () => call(accessEndpoints.whoAmI, {}),
    retry: false,
  });
  const other = mode === 'dark' ? 'light' : 'dark';
  const keepMode = () => {
    localStorage.setItem('gremium-theme', other);
    setMode(other);
  };
  const signOut = async () => {
    await call(accessEndpoints.signOut, {});
    queries.clear();
    location.assign('/');
  };
  const inside = session.data ? (
    <Suspense fallback={<main className="people">{t('entrance.waiting')}</main>}>
      <PeopleList session={session.data} mode={mode} />
    </Suspense>
  ) : (
    <Entrance />
  );
  return (
    <ConfigProvider theme={themeOf(mode)} locale={i18n.language === 'de' ? german : english}>
      <div className="page" style={customProperties(mode) as CSSProperties}>
        <header className="top">
          <Mark />
          <span className="name">Gremium</span>
          <span className="organisation">{session.data?.organisation}</span>
          <span className="end">
            <Button type="text" size="small" onClick={keepMode}>
              {t(`theme.${other}`)}
            </Button>
            <Button
              type="text"
              size="small"
              onClick={() => setLanguage(i18n.language === 'de' ? 'en' : 'de')}
            >
              {t('language')}
            </Button>
            {session.data && (
              <>
                <span>{session.data.viewer.name}</span>
                <Button type="text" size="small" onClick={() => void signOut()}>
                  {t('entrance.signOut')}
                </Button>
              </>
            )}
          </span>
        </header>
        <Routes>
          <Route path="/first-administrator" element={<FirstAdministrator />} />
          <Route
            path="*"
            element={session.isPending ? <main className="people">{t('entrance.waiting')}</main> : inside}
          />
        </Routes>
      </div>
    </ConfigProvider>
  );
};
