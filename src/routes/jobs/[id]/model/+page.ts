/** The stages work in the browser: drawing them on the server first would only be done twice. */
export const ssr = false;
