import locale from 'antd/locale/de_DE';

export { de } from './de';
export { locale };
