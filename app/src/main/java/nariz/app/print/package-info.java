/** What goes on paper: {@link nariz.app.print.WorkCardPdf} writes a work card for the garage wall. */
package nariz.app.print;
