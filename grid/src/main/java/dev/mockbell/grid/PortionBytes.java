package dev.mockbell.grid;

import dev.mockbell.load.Health;
import dev.mockbell.load.Portion;
import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.DataInputStream;
import java.io.DataOutputStream;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.zip.DeflaterOutputStream;
import java.util.zip.InflaterInputStream;
import org.HdrHistogram.Histogram;

/**
 * A portion as bytes. Histograms are as HdrHistogram writes them, so that none of their counts is lost, and the whole is
 * deflated: some kilobytes for each step at any rate. One without samples takes a byte.
 */
public final class PortionBytes {
    private static final long HIGHEST = 3_600_000_000L;
    private static final int MOST = 1 << 20;

    private PortionBytes() {}

    /** A portion as it is sent. */
    public static byte[] of(Portion portion) {
        ByteArrayOutputStream bytes = new ByteArrayOutputStream();
        try (DataOutputStream out = new DataOutputStream(new DeflaterOutputStream(bytes))) {
            out.writeInt(portion.second());
            histograms(out, portion.times());
            histograms(out, portion.begun());
            histograms(out, portion.stages());
            numbers(out, portion.failed());
            numbers(out, portion.unchecked());
            out.writeLong(portion.journeys());
            out.writeLong(portion.well());
            out.writeLong(portion.inFlight());
            out.writeLong(portion.users());
            Health h = portion.health();
            out.writeDouble(h.latestStartMillis());
            out.writeLong(h.lateStarts());
            out.writeDouble(h.cpu());
            out.writeDouble(h.machineCpu());
            out.writeLong(h.collectorMillis());
            out.writeDouble(h.loopDelayMillis());
            out.writeInt(h.connections());
            out.writeInt(portion.reasons().size());
            for (Map.Entry<String, Long> reason : portion.reasons().entrySet()) {
                Texts.write(out, reason.getKey());
                out.writeLong(reason.getValue());
            }
        } catch (IOException e) {
            throw new IllegalStateException("memory can always be written to", e);
        }
        return bytes.toByteArray();
    }

    private static void histograms(DataOutputStream out, List<Histogram> all) throws IOException {
        out.writeInt(all.size());
        ByteBuffer buffer = ByteBuffer.allocate(0);
        for (Histogram one : all) {
            if (one.getTotalCount() == 0) {
                out.writeInt(0);
                continue;
            }
            if (buffer.capacity() < one.getNeededByteBufferCapacity()) {
                buffer = ByteBuffer.allocate(one.getNeededByteBufferCapacity());
            }
            buffer.clear();
            int length = one.encodeIntoByteBuffer(buffer);
            out.writeInt(length);
            out.write(buffer.array(), 0, length);
        }
    }

    private static void numbers(DataOutputStream out, List<Long> all) throws IOException {
        out.writeInt(all.size());
        for (long one : all) {
            out.writeLong(one);
        }
    }

    /**
     * Reads what {@link #of} gave.
     *
     * @throws IOException when it is none
     */
    public static Portion read(byte[] bytes) throws IOException {
        try (DataInputStream in = new DataInputStream(new InflaterInputStream(new ByteArrayInputStream(bytes)))) {
            return new Portion(
                    in.readInt(),
                    histograms(in),
                    histograms(in),
                    histograms(in),
                    numbers(in),
                    numbers(in),
                    in.readLong(),
                    in.readLong(),
                    in.readLong(),
                    in.readLong(),
                    new Health(
                            in.readDouble(),
                            in.readLong(),
                            in.readDouble(),
                            in.readDouble(),
                            in.readLong(),
                            in.readDouble(),
                            in.readInt()),
                    reasons(in));
        } catch (RuntimeException e) {
            throw new IOException("not a portion", e);
        }
    }

    private static int count(DataInputStream in) throws IOException {
        int count = in.readInt();
        if (count < 0 || count > MOST) {
            throw new IOException("a count of " + count);
        }
        return count;
    }

    private static List<Histogram> histograms(DataInputStream in) throws IOException {
        int count = count(in);
        List<Histogram> all = new ArrayList<>();
        Histogram none = null;
        for (int i = 0; i < count; i++) {
            int length = count(in);
            if (length == 0) {
                none = none == null ? new Histogram(1, HIGHEST, 3) : none;
                all.add(none);
            } else {
                all.add(Histogram.decodeFromByteBuffer(ByteBuffer.wrap(in.readNBytes(length)), HIGHEST));
            }
        }
        return all;
    }

    private static List<Long> numbers(DataInputStream in) throws IOException {
        int count = count(in);
        List<Long> all = new ArrayList<>();
        for (int i = 0; i < count; i++) {
            all.add(in.readLong());
        }
        return all;
    }

    private static Map<String, Long> reasons(DataInputStream in) throws IOException {
        int count = count(in);
        Map<String, Long> all = new HashMap<>();
        for (int i = 0; i < count; i++) {
            all.put(Texts.read(in), in.readLong());
        }
        return all;
    }
}
