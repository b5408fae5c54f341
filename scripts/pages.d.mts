export const buildPages: () => void;
