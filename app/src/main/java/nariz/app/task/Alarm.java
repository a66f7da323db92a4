package nariz.app.task;

import javax.sound.sampled.AudioFormat;
import javax.sound.sampled.AudioSystem;
import javax.sound.sampled.LineUnavailableException;
import javax.sound.sampled.SourceDataLine;

/** A tone for somebody who looks at the road. Where the machine has no sound it is silent. */
public final class Alarm {
    private static final float RATE = 22_050;
    private static final double HZ = 880;
    private static final double LENGTH_S = 0.35;
    private static final long EVERY_NS = 700_000_000L;

    private long lastNs;
    private boolean dumb;

    /**
     * Sounds while it is asked for, a tone at a time.
     *
     * @param on whether there is something to warn of
     */
    public void sound(boolean on) {
        long now = System.nanoTime();
        if (on && !dumb && now - lastNs > EVERY_NS) {
            lastNs = now;
            Thread.ofVirtual().start(this::tone);
        }
    }

    private void tone() {
        byte[] wave = new byte[(int) (RATE * LENGTH_S)];
        for (int i = 0; i < wave.length; i++) {
            wave[i] = (byte) (100 * Math.sin(2 * Math.PI * HZ * i / RATE));
        }
        try (SourceDataLine line = AudioSystem.getSourceDataLine(new AudioFormat(RATE, 8, 1, true, false))) {
            line.open();
            line.start();
            line.write(wave, 0, wave.length);
            line.drain();
        } catch (LineUnavailableException | IllegalArgumentException e) {
            dumb = true;
        }
    }
}
