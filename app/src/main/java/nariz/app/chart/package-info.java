/**
 * The product's own pictures, drawn on canvases: fuel stream, plane, trace, scrubber, effect. Each is a
 * {@link nariz.app.chart.Picture}: it redraws at most once a pulse, after its inputs changed. They read the session and
 * report clicks back to it; they hold no state of their own beyond what a drag needs.
 */
package nariz.app.chart;
