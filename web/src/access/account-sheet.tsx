// One account: how it stands with it, the roles given to it from day to day, and what it sees.
import { type AccountOut, type AccountRole, type Day, accessEndpoints } from '@gremium/contract';
import { isBefore } from '@gremium/core';
import { Button, Input } from 'antd';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { Link } from 'react-router';
import { call } from '../api';
import { useGo, useTo } from '../frame/lens';
import { pathOf } from '../frame/pages';
import { useSession } from '../frame/session';
import { useFormat } from '../texts/format';
import { useWords } from '../texts/words';
import { DayInput, isDay } from '../ui/day-input';
import { Choice } from '../ui/field-input';
import { Problems } from '../ui/problems';
import { useSettled } from '../ui/use-settled';
import { isRetiredRole, roleCodes, useAccountAct, useGiftPreview, useRoleName } from './access.queries';
import { accessWords } from './access-words';
import { type Draft, ScopePicker, scopeOf } from './scope-picker';
import { SightPanel } from './sight-panel';

type Of = { account: AccountOut };
type Token = { token: string; expires: string };

/** An account as a sheet. */
export const AccountSheet = ({ account }: Of) => {
  const words = useWords(accessWords);
  const { viewer } = useSession();
  const [isGiving, setGiving] = useState(false);
  const isOwn = viewer.account === account.id;
  return (
    <main className="record role">
      <div className="rolesides">
        <div className="rolemain">
          <AccountHead {...{ account, isOwn }} />
          <section aria-labelledby="gifts" className="gifts">
            <h2 id="gifts">
              {words.roles} <span className="soft">{words.rolesLead}</span>
            </h2>
            {account.roles.length === 0 && account.grants.length === 0 && (
              <p className="soft">{words.noGifts}</p>
            )}
            {account.roles.map((_, place) => (
              <GiftLine key={place} {...{ account, place, isOwn }} />
            ))}
            {account.grants.length > 0 && <p className="soft">{words.grants(account.grants.length)}</p>}
            {isOwn && <p className="soft">{words.yours}</p>}
            {!isOwn && !isGiving && (
              <p>
                <Button type="primary" onClick={() => setGiving(true)}>
                  {words.give}
                </Button>
              </p>
            )}
            {isGiving && <GiveForm account={account} onLeave={() => setGiving(false)} />}
          </section>
        </div>
        <aside className="roleaside">
          <SightPanel account={account} />
        </aside>
      </div>
    </main>
  );
};

const AccountHead = ({ account, isOwn }: Of & { isOwn: boolean }) => {
  const words = useWords(accessWords);
  const format = useFormat();
  const to = useTo();
  const [link, setLink] = useState<Token | null>(null);
  const { id, name, email, personId, state, seenAt, accessUntil, active } = account;
  const pause = useAccountAct((isActive: boolean) =>
    call(accessEndpoints.changeAccount, { params: { id }, body: { active: isActive } }),
  );
  const renew = useAccountAct(async () => {
    setLink(await call(accessEndpoints.passwordLink, { params: { id } }));
  });
  return (
    <header className="rolehead">
      <div className="roletitle">
        <h1>{personId === null ? name : <Link to={to(pathOf('person', personId))}>{name}</Link>}</h1>
        {!isOwn && (
          <Button loading={pause.isPending} onClick={() => pause.mutate(!active)}>
            {active ? words.pause : words.goOn}
          </Button>
        )}
      </div>
      <p>{words.signsIn(email)}</p>
      <p className="soft">
        <span className={state === 'active' ? 'moss' : 'ochre'}>{words.states[state]}</span>
        {', '}
        {seenAt ? words.seen(format.day(seenAt.slice(0, 10))) : words.neverSeen}
        {accessUntil && `, ${words.until(format.day(accessUntil))}`}{' '}
        {active && (
          <button type="button" className="textact" onClick={() => renew.mutate(undefined as never)}>
            {words.newLink}
          </button>
        )}
      </p>
      <Problems of={pause.error ?? renew.error} />
      {link && <OneTimeLink {...link} />}
    </header>
  );
};

const OneTimeLink = ({ token, expires }: Token) => {
  const words = useWords(accessWords);
  const format = useFormat();
  const address = `${location.origin}/password#${token}`;
  return (
    <div className="onetimelink" role="status">
      <p>{words.link(format.day(expires.slice(0, 10)))}</p>
      <Input
        readOnly
        value={address}
        aria-label={words.copyLink}
        onFocus={(event) => event.target.select()}
      />
    </div>
  );
};

const GiftLine = ({ account, place, isOwn }: Of & { place: number; isOwn: boolean }) => {
  const words = useWords(accessWords);
  const { i18n } = useTranslation();
  const format = useFormat();
  const { today } = useSession();
  const roleName = useRoleName();
  const to = useTo();
  const [day, setDay] = useState<string | null | undefined>(undefined);
  const gift = account.roles[place] as AccountOut['roles'][number];
  const end = useAccountAct((lastDay: Day | null) =>
    call(accessEndpoints.endGift, { params: { id: account.id, gift: place }, body: { lastDay } }),
  );
  const isOver = gift.lastDay !== undefined && isBefore(gift.lastDay, today);
  const isAhead = gift.from !== undefined && isBefore(today, gift.from);
  return (
    <div className={isOver ? 'gift over' : isAhead ? 'gift ahead' : 'gift'}>
      {place > 0 && <span className="giftor soft">{words.or}</span>}
      <div>
        <Link className="giftrole" to={to(`/setup/roles/${gift.role}`)}>
          {roleName(gift.role)}
        </Link>{' '}
        {words.inPart} <strong>{i18n.language === 'de' ? gift.said.de : gift.said.en}</strong>
        <p className="soft">
          {gift.from ? words.since(format.day(gift.from)) : words.always},{' '}
          {gift.lastDay ? words.lastDay(format.day(gift.lastDay)) : words.noLastDay}
          {gift.by && `. ${words.givenBy(gift.by)}`}
          {gift.why && `, ${words.because} ${gift.why}`}
        </p>
        <Problems of={end.error} />
        {day !== undefined && (
          <div className="endgift">
            <DayInput id={`end-${place}`} label={words.endOn} value={day} onChange={setDay} autoFocus />
            <Button
              type="primary"
              disabled={day !== null && !isDay(day)}
              loading={end.isPending}
              onClick={() => end.mutate(isDay(day) ? day : null, { onSuccess: () => setDay(undefined) })}
            >
              {day === null ? words.endNow : words.end}
            </Button>
          </div>
        )}
      </div>
      {isOver ? (
        <span className="soft">{words.over}</span>
      ) : (
        !isOwn &&
        day === undefined && (
          <button
            type="button"
            className="textact"
            onClick={() => (isAhead ? end.mutate(null) : setDay(null))}
          >
            {isAhead ? words.takeBack : words.end}
          </button>
        )
      )}
    </div>
  );
};

const GiveForm = ({ account, onLeave }: Of & { onLeave: () => void }) => {
  const words = useWords(accessWords);
  const { t } = useTranslation();
  const format = useFormat();
  const roleName = useRoleName();
  const [role, setRole] = useState<string | null>(null);
  const [drafts, setDrafts] = useState<Draft[]>([]);
  const [from, setFrom] = useState<string | null>(null);
  const [lastDay, setLastDay] = useState<string | null>(null);
  const [why, setWhy] = useState('');
  const scope = scopeOf(drafts);
  const areDays = (from === null || isDay(from)) && (lastDay === null || isDay(lastDay));
  const gift: AccountRole | null =
    role === null || scope === null || !areDays
      ? null
      : { role, scope, ...(isDay(from) ? { from } : {}), ...(isDay(lastDay) ? { lastDay } : {}) };
  const preview = useGiftPreview(account.id, useSettled(gift, 250));
  const give = useAccountAct((asked: AccountRole) =>
    call(accessEndpoints.giveRole, {
      params: { id: account.id },
      body: { gift: asked, why: why.trim() || null, preview: false },
    }),
  );
  const { own, shipped } = roleCodes();
  const codes = [...own.filter((code) => !isRetiredRole(code)), ...shipped];
  return (
    <form
      className="giveform"
      onSubmit={(event) => {
        event.preventDefault();
        if (gift) give.mutate(gift, { onSuccess: onLeave });
      }}
    >
      <label htmlFor="give-role" className="soft">
        {words.role}
      </label>
      <Choice
        id="give-role"
        label={words.role}
        value={role}
        clearable={false}
        options={codes.map((value) => ({ value, label: roleName(value) }))}
        onChange={(value) => setRole(value as string)}
      />
      <ScopePicker drafts={drafts} onChange={setDrafts} />
      <div className="givedays">
        <label htmlFor="give-from">{words.from}</label>
        <DayInput id="give-from" label={words.from} value={from} onChange={setFrom} />
        <label htmlFor="give-to">{words.to}</label>
        <DayInput id="give-to" label={words.to} value={lastDay} onChange={setLastDay} />
        <label htmlFor="give-why">{words.because}</label>
        <Input
          id="give-why"
          variant="underlined"
          value={why}
          maxLength={200}
          onChange={(event) => setWhy(event.target.value)}
        />
      </div>
      {preview.data && gift && <p className="indigo">{words.adds(preview.data.adds, preview.data.people)}</p>}
      <Problems of={give.error ?? preview.error} />
      <div className="giveacts">
        <button type="button" className="textact" onClick={onLeave}>
          {t('edit.discard')}
        </button>
        <Button type="primary" htmlType="submit" disabled={!gift} loading={give.isPending}>
          {isDay(from) ? words.giveFrom(format.day(from)) : words.giveRole}
        </Button>
      </div>
    </form>
  );
};

/** Makes an account that is opened by its one-time link. */
export const NewAccount = () => {
  const words = useWords(accessWords);
  const go = useGo();
  const [email, setEmail] = useState('');
  const [name, setName] = useState('');
  const [made, setMade] = useState<(Token & { id: number }) | null>(null);
  const make = useAccountAct(async () => {
    const body = {
      email,
      name,
      language: 'en' as const,
      personId: null,
      roles: [],
      grants: [],
      password: null,
    };
    const { id, token, expires } = await call(accessEndpoints.createAccount, { body });
    setMade({ id, token: token as string, expires: expires as string });
  });
  return (
    <main className="record role">
      <form
        className="newaccount"
        onSubmit={(event) => {
          event.preventDefault();
          make.mutate(undefined as never);
        }}
      >
        <h1>{words.addPeople}</h1>
        <label>
          <span>{words.name}</span>
          <Input variant="underlined" value={name} onChange={(event) => setName(event.target.value)} />
        </label>
        <label>
          <span>{words.email}</span>
          <Input variant="underlined" value={email} onChange={(event) => setEmail(event.target.value)} />
        </label>
        <Problems of={make.error} />
        {made === null ? (
          <Button
            type="primary"
            htmlType="submit"
            loading={make.isPending}
            disabled={!email.trim() || !name.trim()}
          >
            {words.invite}
          </Button>
        ) : (
          <>
            <OneTimeLink {...made} />
            <Button onClick={() => go(`/setup/access/${made.id}`)}>{words.give}</Button>
          </>
        )}
      </form>
    </main>
  );
};
