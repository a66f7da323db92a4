package nariz.app.chart;

import java.util.Objects;
import nariz.app.state.Drive;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.DeliveryModel;
import org.jspecify.annotations.Nullable;

/**
 * The carburetor of the open drive as found, set up once a drive and not with every frame. For the interface thread.
 */
final class DriveModel {
    private @Nullable Drive of;
    private @Nullable DeliveryModel model;

    /**
     * The model of a drive.
     *
     * @param d drive
     * @return its carburetor as the estimate has it, or as the sheet has it where nothing was estimated
     */
    DeliveryModel of(Drive d) {
        DeliveryModel known = model;
        if (known == null || !Objects.equals(d, of)) {
            BuildSheet sheet = d.sheet();
            known = d.analysis().estimated() ? d.analysis().estimate().carburetor().model(sheet) : sheet.carburetor()
                    .family().model(sheet);
            of = d;
            model = known;
        }
        return known;
    }
}
