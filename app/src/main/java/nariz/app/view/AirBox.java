package nariz.app.view;

import static nariz.app.words.WindowWords.say;
import static nariz.app.words.WindowWords.units;

import javafx.geometry.Pos;
import javafx.scene.control.Label;
import javafx.scene.control.TextField;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;
import nariz.app.chart.WeakListeners;
import nariz.app.state.Drive;
import nariz.app.state.Session;
import nariz.carburetor.Ambient;
import nariz.carburetor.Carburetor;
import nariz.carburetor.Part;
import nariz.carburetor.Stage;
import nariz.diagnosis.AirDensity;
import nariz.units.Quantity;
import nariz.units.Shown;
import nariz.units.Units;

/** What another altitude or temperature does at the same parts, and which main jet restores the mixture. */
final class AirBox extends VBox {
    private final Session session;
    private final TextField altitude = new TextField("1500");
    private final TextField temperature = new TextField("15");
    private final Label metres = new Label();
    private final Label degrees = new Label();
    private final Label answer = new Label();

    AirBox(Session session) {
        super(5);
        this.session = session;
        Label title = new Label(say("air-box.at-another-altitude"));
        title.getStyleClass().add("card-subheading");
        field(altitude, "air-altitude", say("air-box.altitude-m"));
        field(temperature, "air-temperature", say("air-box.temperature-c"));
        HBox fields = new HBox(6, altitude, metres, temperature, degrees);
        fields.setAlignment(Pos.CENTER_LEFT);
        answer.setId("air-answer");
        answer.setWrapText(true);
        answer.getStyleClass().add("small");
        getChildren().addAll(title, fields, answer);
        WeakListeners.attach(session.driveProperty(), this, (o, was, is) -> tell());
        WeakListeners.attach(session.shownProperty(), this, (o, was, is) -> turnInto(was.road(), is.road()));
        tell();
    }

    /** What was typed stays the same height and warmth. */
    private void turnInto(Shown.Road was, Shown.Road is) {
        if (was != is) {
            try {
                double m = number(altitude) * was.heightM();
                double k = was.kelvin(number(temperature));
                altitude.setText(Quantity.trim(m / is.heightM(), 0));
                temperature.setText(Quantity.trim(is.degrees(k), 0));
            } catch (NumberFormatException e) {
                answer.setText(say("air-box.altitude-and-temperature"));
            }
        }
        tell();
    }

    private void field(TextField f, String id, String name) {
        f.setId(id);
        f.setAccessibleText(name);
        f.setPrefColumnCount(4);
        f.textProperty().addListener((o, was, is) -> tell());
    }

    private void tell() {
        Shown.Road road = units().road();
        metres.setText(road.height());
        degrees.setText(road.heat());
        Drive d = session.driveProperty().get();
        if (d == null) {
            answer.setText("");
            return;
        }
        Ambient here = d.sheet().ambient();
        try {
            Ambient there = AirDensity.at(number(altitude) * road.heightM(),
                    road.kelvin(number(temperature)) - Units.ZERO_CELSIUS_K);
            double ratio = AirDensity.lambdaRatio(here, there);
            Carburetor c = d.sheet().carburetor();
            double jet = c.family().part(c, Stage.PRIMARY, Part.Role.METERING_FUEL).map(j -> j.of(c, Stage.PRIMARY)
                    * j.si()).orElse(0.0);
            String restored = jet > 0 ? say("air-box.a-main-jet-of",
                    thou(AirDensity.jetM(jet, here, there)), thou(jet)) : "";
            answer.setText(say("air-box.air-kpa-of-the", units().vacuum(there.pressurePa()),
                    100 * there.densityKgPerM3()
                    / here.densityKgPerM3(), 100 * Math.abs(ratio - 1), ratio < 1 ? say("air-box.richer")
                            : say("air-box.leaner"), restored));
        } catch (NumberFormatException e) {
            answer.setText(say("air-box.altitude-and-temperature"));
        } catch (IllegalArgumentException e) {
            answer.setText(say("air-box.altitude-from-to", Math.round(-500 / road.heightM()),
                    Math.round(6000 / road.heightM()), road.height(), Math.round(road.degrees(213.15)),
                    Math.round(road.degrees(343.15)), road.heat()));
        }
    }

    private static double number(TextField f) {
        return Double.parseDouble(f.getText().strip().replace(',', '.'));
    }

    private static String thou(double m) {
        return say("air-box.thou-mm", m / Units.THOU, 1e3 * m);
    }
}
