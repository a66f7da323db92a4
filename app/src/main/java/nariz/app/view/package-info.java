/** The window made of controls: circuit path, verdict, work card, messages. {@link nariz.app.view.MainWindow} joins. */
package nariz.app.view;
