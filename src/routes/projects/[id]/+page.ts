// The workspace lives in the browser: it needs workers and WebGL.
export const ssr = false;
