/**
 * What the window shows, without a single node: the drive that is open, the cursor, the selected stop, the words of
 * each stop, and background work. {@link nariz.app.state.Session} is the one view model; it is tested without a
 * window. Worker threads publish immutable results; {@link nariz.app.state.BackgroundWork} is the one place that hops
 * to the interface thread.
 */
package nariz.app.state;
