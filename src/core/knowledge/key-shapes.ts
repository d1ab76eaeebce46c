/** Long, of letters and digits mixed, no word and no file name: an id or a key. */
export function looksLikeToken(text: string): boolean {
  if (text.length < 15 || text.length > 120 || /\s/.test(text)) return false;
  const digits = text.replace(/\D/g, "").length;
  if (digits < 4 || /\.(png|jpg|json|plist|js|ts|html|xml|ttf|otf|svg|mp3|mp4|com|org)$/i.test(text)) return false;
  if (/^\d+(\.\d+)*$/.test(text)) return text.length >= 15;
  // Names made of words have few changes between letters and digits.
  const changes = text.replace(/[^A-Za-z0-9]/g, "").match(/[a-zA-Z](?=\d)|\d(?=[a-zA-Z])/g)?.length ?? 0;
  return changes >= 3 || digits >= 9;
}
