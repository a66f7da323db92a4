package nariz.carburetor;

import java.util.List;

/**
 * Everything known about the engine and its carburetor, SI, complete.
 *
 * @param name the user's name for it
 * @param engine engine
 * @param fuel fuel
 * @param ambient air around the car
 * @param carburetor carburetor
 * @param targets mixtures the tuner wants
 * @param assumed fields that the file left out and the family default filled, as {@code path = value}
 */
public record BuildSheet(String name, Engine engine, Fuel fuel, Ambient ambient, Carburetor carburetor,
        Targets targets, List<String> assumed) {
    /** Copies the list. */
    public BuildSheet {
        assumed = List.copyOf(assumed);
    }

    /**
     * Which of the sizes that set a circuit's level the file left to the family's default.
     *
     * @param c circuit
     * @return paths of the fields
     */
    public List<String> assumedSizes(Circuit c) {
        return c.sizes().stream().map(f -> "carburetor." + c.stage().key() + "." + f)
                .filter(path -> assumed.stream().anyMatch(a -> a.startsWith(path + " "))).toList();
    }

    /**
     * The same sheet with another carburetor.
     *
     * @param other the carburetor
     * @return a new sheet
     */
    public BuildSheet withCarburetor(Carburetor other) {
        return new BuildSheet(name, engine, fuel, ambient, other, targets, assumed);
    }
}
