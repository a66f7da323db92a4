/** Colours and fonts: {@link nariz.app.theme.Palette} for the drawings, matching the tokens in nariz.css. */
package nariz.app.theme;
