/** Letters of an email at most (RFC 5321, 4.5.3.1.3, without the brackets). */
export const MOST_EMAIL = 254;

// No two neighbours of the pattern match the same letter: what does not fit is found in one pass.
const FORM = /^[^\s@]+@[^\s@.]+(?:\.[^\s@.]+)+$/;

/** Whether a text has the form of an email: a name, @, and parts between points. What is too long is not looked at. */
export const isEmailForm = (text: string): boolean => text.length <= MOST_EMAIL && FORM.test(text);
