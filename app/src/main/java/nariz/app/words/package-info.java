/** What the window says, by key; see {@link nariz.words}. */
package nariz.app.words;
