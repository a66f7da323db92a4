/**
 * Start-up and wiring of the window. {@link nariz.app.Main} starts the toolkit, {@link nariz.app.NarizApplication} puts
 * the window together.
 */
package nariz.app;
