/** What the window says, by key; see {@link nariz.text}. */
package nariz.app.words;
