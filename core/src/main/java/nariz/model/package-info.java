/**
 * The forward model: from engine speed, manifold vacuum and the build sheet to the fuel every circuit delivers.
 *
 * <p>One class per physical element, each with its equation and source: {@link nariz.model.VolumetricEfficiency},
 * {@link nariz.model.CompressibleFlow}, {@link nariz.model.ThrottlePlate}, {@link nariz.model.SecondaryOpening},
 * {@link nariz.model.IdleNetwork}, {@link nariz.model.MainWell}, {@link nariz.model.Enrichment} and
 * {@link nariz.model.AcceleratorPump}. {@link nariz.model.FuelModel} joins them; start there. Results are in
 * phi = 1/lambda, in which fuel from several circuits adds up. docs/model.md explains the whole with pictures.
 */
package nariz.model;
