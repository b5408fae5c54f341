// What is under way on the page: calls that are not answered, and what waits a moment before it is sent or shown. The root
// says when there is none (`data-settled`), so that whoever drives the page by a program need not guess.

const DRAWN_AFTER = 60;

let count = 0;

const tell = (): void => {
  if (count === 0) document.documentElement.dataset['settled'] = 'yes';
  else delete document.documentElement.dataset['settled'];
};

/** Something is under way until what is answered is called; calling it again changes nothing. */
export const underWay = (): (() => void) => {
  count++;
  tell();
  let isOver = false;
  return () => {
    if (isOver) return;
    isOver = true;
    count--;
    // what follows from it is drawn, and asks in its turn, first
    setTimeout(tell, DRAWN_AFTER);
  };
};

/** Does something after so many milliseconds, which is under way until then; what is answered calls it off. */
export const later = (after: number, act: () => void): (() => void) => {
  const over = underWay();
  const timer = setTimeout(() => {
    act();
    over();
  }, after);
  return () => {
    clearTimeout(timer);
    over();
  };
};
