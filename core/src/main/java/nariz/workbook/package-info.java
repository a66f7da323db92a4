/**
 * The workbook: one file with vehicles, build sheets as a chain of versions, runs with their samples and the files they
 * came from, notes, checks and advice.
 *
 * <p>{@link nariz.workbook.Workbook} is the door; every change is one transaction, on disk when the call returns, and
 * can be taken back while the workbook is open. {@link nariz.workbook.Exchange} writes runs and whole workbooks as
 * CSV, JSON and data packages and reads them back, all of it or nothing. Every row carries a sum: {@link
 * nariz.workbook.WorkbookCheck} finds damage, {@link nariz.workbook.Rescue} saves the rest. SQLite (write-ahead log,
 * foreign keys) lies behind it and is seen nowhere else.
 */
@NullMarked
package nariz.workbook;

import org.jspecify.annotations.NullMarked;
