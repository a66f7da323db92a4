/**
 * Work beside the interface thread: {@link nariz.app.task.TaskRunner}, one thread each, and {@link
 * nariz.app.task.FaultLog}, where unexpected faults are written down.
 */
package nariz.app.task;
