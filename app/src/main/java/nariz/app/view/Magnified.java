package nariz.app.view;

import javafx.scene.layout.Region;
import javafx.scene.transform.Scale;

/** A page that is laid out in a smaller or larger place than it fills, and shown magnified to fill it. */
final class Magnified extends Region {
    private final Region page;
    private final Scale scale = new Scale(1, 1);

    Magnified(Region page) {
        this.page = page;
        page.setManaged(false);
        page.getTransforms().add(scale);
        getChildren().add(page);
    }

    void magnify(double by) {
        if (scale.getX() != by) {
            scale.setX(by);
            scale.setY(by);
            requestLayout();
        }
    }

    @Override
    protected void layoutChildren() {
        page.resizeRelocate(0, 0, getWidth() / scale.getX(), getHeight() / scale.getY());
    }
}
