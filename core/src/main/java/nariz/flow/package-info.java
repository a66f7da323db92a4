/**
 * The forward model: from engine speed, manifold vacuum and the build sheet to the fuel every circuit delivers.
 *
 * <p>One class per physical element, each with its equation and source: {@link nariz.flow.VolumetricEfficiency},
 * {@link nariz.flow.CompressibleFlow}, {@link nariz.flow.ThrottlePlate}, {@link nariz.flow.SecondaryOpening},
 * {@link nariz.flow.IdleNetwork}, {@link nariz.flow.MainWell}, {@link nariz.flow.Enrichment} and
 * {@link nariz.flow.AcceleratorPump}. {@link nariz.flow.MeteredModel} joins them; start there. Results are in
 * phi = 1/lambda, in which fuel from several circuits adds up. docs/model.md explains the whole with pictures.
 */
@NullMarked
package nariz.flow;

import org.jspecify.annotations.NullMarked;
