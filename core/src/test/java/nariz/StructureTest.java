package nariz;

import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.noClasses;
import static com.tngtech.archunit.library.dependencies.SlicesRuleDefinition.slices;
import static org.assertj.core.api.Assertions.assertThat;

import com.tngtech.archunit.core.domain.JavaClasses;
import com.tngtech.archunit.core.importer.ClassFileImporter;
import com.tngtech.archunit.core.importer.ImportOption;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.stream.Stream;
import org.testng.annotations.Test;

/** Arrows go one way, and the core has no face. */
public class StructureTest {
    private static final JavaClasses CORE = new ClassFileImporter()
            .withImportOption(ImportOption.Predefined.DO_NOT_INCLUDE_TESTS)
            .importPath(Path.of("target/classes"));

    @Test
    public void packagesFormNoCycle() {
        assertThat(CORE.size()).isGreaterThan(50);
        slices().matching("nariz.(*)..").should().beFreeOfCycles().check(CORE);
    }

    @Test
    public void coreHasNoInterfaceCode() {
        noClasses().should().dependOnClassesThat().resideInAnyPackage("javafx..", "java.awt..", "javax.swing..",
                "javax.imageio..").check(CORE);
    }

    @Test
    public void estimatorAndAdviceNeverReadTheSimulator() {
        noClasses().that().resideInAnyPackage("nariz.estimation..", "nariz.diagnosis..").should().dependOnClassesThat()
                .resideInAnyPackage("nariz.sim..", "nariz.exam..").check(CORE);
    }

    @Test
    public void everyPackageSaysWhatItIsFor() throws IOException {
        try (Stream<Path> folders = Files.walk(Path.of("src/main/java/nariz"))) {
            assertThat(folders.filter(Files::isDirectory).filter(d -> !d.endsWith("nariz")))
                    .allSatisfy(d -> assertThat(d.resolve("package-info.java")).exists());
        }
    }
}
