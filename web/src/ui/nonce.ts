/** What lets a style through that a dialog or list adds while it is open: the server names it anew with each page. */
export const nonce = document.querySelector<HTMLMetaElement>("meta[name=nonce]")?.content ?? "";
