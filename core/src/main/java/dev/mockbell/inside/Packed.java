package dev.mockbell.inside;

import dev.mockbell.content.Content;
import dev.mockbell.content.ContentSink;
import dev.mockbell.problem.Problem;
import java.io.IOException;
import java.io.InputStream;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.zip.GZIPInputStream;
import java.util.zip.InflaterInputStream;
import java.util.zip.ZipEntry;
import java.util.zip.ZipInputStream;

/** What is in gzip (RFC 1952) and in zip archives, bounded, since a few bytes of them can hold very many. */
public final class Packed {
    /** What is taken out of one. */
    static final long MOST = 256L << 20;

    private static final int MOST_ENTRIES = 1_000;
    private static final int STEP = 64 * 1024;

    private Packed() {}

    /**
     * A file in an archive.
     *
     * @param size in bytes, unpacked; negative when that was not come to
     */
    public record Entry(String name, long size) {}

    /** What the start of gzip holds; empty when it is spoilt. */
    static Optional<Inside> unzipped(Content content) {
        try (InputStream in = new GZIPInputStream(content.open(), STEP)) {
            byte[] start = in.readNBytes(Inside.COUNTED);
            if (start.length > 1 && start[0] == 0x1F && (start[1] & 0xFF) == 0x8B) {
                // what packs itself over and over is not followed
                return Optional.of(
                        new Inside(Kind.GZIP, "gzip", Content.of(start), java.nio.charset.StandardCharsets.UTF_8, 0));
            }
            Inside inside = Inside.of(Content.of(start));
            // how many there are is not known of what goes on
            return Optional.of(in.read() < 0 ? inside : inside.uncounted());
        } catch (IOException spoilt) {
            return Optional.empty();
        }
    }

    static String words(Content content) {
        try {
            List<Entry> entries = entries(content);
            return "zip, " + (entries.size() == 1 ? "1 file" : entries.size() + " files");
        } catch (Problem spoilt) {
            return "zip, spoilt";
        }
    }

    /**
     * All that gzip holds.
     *
     * @throws Problem when it is spoilt or holds too much
     */
    public static Content gunzipped(Content content) {
        try (InputStream in = new GZIPInputStream(content.open(), STEP)) {
            return copied(in, "The gzip");
        } catch (IOException e) {
            throw spoilt("gzip", e);
        }
    }

    /**
     * What gzip (RFC 1952) or zlib (RFC 1950) holds up to where it is spoilt.
     *
     * @param most how many bytes are taken out
     * @return nothing when not one byte comes out, or when it is neither
     */
    public static Optional<Content> asFarAsItGoes(Content content, long most) {
        byte[] start = content.start(2);
        boolean gzip = start.length == 2 && start[0] == 0x1F && (start[1] & 0xFF) == 0x8B;
        boolean zlib =
                start.length == 2 && (start[0] & 0x0F) == 8 && ((start[0] & 0xFF) << 8 | start[1] & 0xFF) % 31 == 0;
        if (!gzip && !zlib) {
            return Optional.empty();
        }
        ContentSink sink = new ContentSink();
        try (InputStream in =
                gzip ? new GZIPInputStream(content.open(), STEP) : new InflaterInputStream(content.open())) {
            byte[] piece = new byte[512];
            int count;
            while (sink.size() < most && (count = in.read(piece)) >= 0) {
                sink.write(piece, 0, (int) Math.min(count, most - sink.size()));
            }
        } catch (IOException spoilt) {
            // what came out before is all there is
        }
        return sink.size() == 0 ? Optional.empty() : Optional.of(sink.content());
    }

    /**
     * The files of a zip archive, the first thousand, as they stand in it.
     *
     * @throws Problem when it is spoilt
     */
    public static List<Entry> entries(Content content) {
        List<Entry> entries = new ArrayList<>();
        try (ZipInputStream in = new ZipInputStream(content.open())) {
            long taken = 0;
            byte[] piece = new byte[STEP];
            for (ZipEntry e = in.getNextEntry(); e != null && entries.size() < MOST_ENTRIES; e = in.getNextEntry()) {
                long size = 0;
                int count = 0;
                while (taken < MOST && (count = in.read(piece)) >= 0) {
                    size += count;
                    taken += count;
                }
                entries.add(new Entry(e.getName(), count < 0 ? size : -1));
                if (taken >= MOST) {
                    break;
                }
            }
        } catch (IOException | IllegalArgumentException e) {
            throw spoilt("zip archive", e);
        }
        return List.copyOf(entries);
    }

    /**
     * One file of a zip archive.
     *
     * @throws Problem when it is not there, is too large, or the archive is spoilt
     */
    public static Content entry(Content content, String name) {
        try (ZipInputStream in = new ZipInputStream(content.open())) {
            for (ZipEntry e = in.getNextEntry(); e != null; e = in.getNextEntry()) {
                if (e.getName().equals(name)) {
                    return copied(in, "The file");
                }
            }
        } catch (IOException | IllegalArgumentException e) {
            throw spoilt("zip archive", e);
        }
        throw Problem.input("There is no file “" + name + "” in the archive", null, null);
    }

    private static Content copied(InputStream in, String what) throws IOException {
        ContentSink sink = new ContentSink();
        byte[] piece = new byte[STEP];
        int count;
        while ((count = in.read(piece)) >= 0) {
            if (sink.size() + count > MOST) {
                throw Problem.input(what + " holds more than " + (MOST >> 20) + " MB", null, "Save it and unpack it.");
            }
            sink.write(piece, 0, count);
        }
        return sink.content();
    }

    private static Problem spoilt(String what, Exception e) {
        return Problem.of(
                Problem.Kind.INPUT, "The " + what + " is spoilt: " + Problem.reason(e), null, "Save it as it is.", e);
    }
}
