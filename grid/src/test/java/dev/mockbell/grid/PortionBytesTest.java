package dev.mockbell.grid;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.mockbell.load.Health;
import dev.mockbell.load.LoadPlan;
import dev.mockbell.load.LoadRun;
import dev.mockbell.load.LoadShape;
import dev.mockbell.load.LoadSums;
import dev.mockbell.load.Portion;
import dev.mockbell.load.Spent;
import java.io.IOException;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.SplittableRandom;
import org.HdrHistogram.Histogram;
import org.junit.jupiter.api.RepeatedTest;
import org.junit.jupiter.api.RepetitionInfo;
import org.junit.jupiter.api.Test;

class PortionBytesTest {
    private static final int STAGES = Spent.Stage.values().length;

    private static Histogram empty() {
        return new Histogram(1, 3_600_000_000L, 3);
    }

    private static List<Histogram> empties(int count) {
        List<Histogram> all = new ArrayList<>();
        for (int i = 0; i < count; i++) {
            all.add(empty());
        }
        return all;
    }

    private static Portion portion(int second, Histogram times, long failed) {
        return new Portion(
                second,
                List.of(times),
                List.of(times),
                empties(STAGES),
                List.of(failed),
                List.of(0L),
                times.getTotalCount(),
                times.getTotalCount() - failed,
                1,
                0,
                new Health(1.5, 2, 0.5, 0.75, 3, 0.25, 4),
                failed == 0 ? Map.of() : Map.of("fault “Hut full”", failed));
    }

    /** Whatever the samples and whoever took them, the whole is as if one had taken all. */
    @RepeatedTest(20)
    void whatComesTogetherOverTheNetworkIsWhatAllSamplesGive(RepetitionInfo round) throws Exception {
        SplittableRandom random = new SplittableRandom(round.getCurrentRepetition());
        int workers = 1 + random.nextInt(8);
        LoadSums sums =
                new LoadSums(LoadPlan.of("p", "P", "s", LoadShape.arrivals(10, 10)), List.of("Book"), List.of());
        Histogram all = empty();
        long failed = 0;
        for (int second = 1; second <= 3; second++) {
            for (int worker = 0; worker < workers; worker++) {
                Histogram times = empty();
                int samples = random.nextInt(500);
                for (int i = 0; i < samples; i++) {
                    long micros = Math.min(3_600_000_000L, (long) Math.exp(random.nextDouble(0, 22)));
                    times.recordValue(Math.max(1, micros));
                    all.recordValue(Math.max(1, micros));
                }
                long bad = samples == 0 ? 0 : random.nextInt(samples);
                failed += bad;
                sums.add(PortionBytes.read(PortionBytes.of(portion(second, times, bad))));
            }
            sums.close(second);
        }
        LoadRun run = sums.result(Instant.EPOCH, 3, false, List.of(), List.of());
        Histogram whole = run.times().get(run.times().size() - 1);
        assertThat(whole).isEqualTo(all);
        assertThat(run.total().done()).isEqualTo(all.getTotalCount());
        assertThat(run.total().failed()).isEqualTo(failed);
        assertThat(run.total().p99()).isEqualTo(all.getTotalCount() == 0 ? 0 : all.getValueAtPercentile(99) / 1_000.0);
        assertThat(run.reasons().values().stream().mapToLong(Long::longValue).sum())
                .isEqualTo(failed);
        assertThat(run.history()).hasSize(3);
        assertThat(run.history().stream().mapToLong(s -> s.done()).sum()).isEqualTo(all.getTotalCount());
        assertThat(run.history().get(0).health().connections()).isEqualTo(4 * workers);
    }

    @Test
    void aPortionThatComesLateIsInItsSecondAllTheSame() {
        LoadSums sums =
                new LoadSums(LoadPlan.of("p", "P", "s", LoadShape.arrivals(10, 10)), List.of("Book"), List.of());
        Histogram one = empty();
        one.recordValue(1_000);
        sums.add(portion(1, one, 0));
        assertThat(sums.close(1).done()).isEqualTo(1);
        sums.close(2);
        sums.add(portion(1, one, 0));
        LoadRun run = sums.result(Instant.EPOCH, 2, false, List.of(), List.of());
        assertThat(run.history().get(0).done()).isEqualTo(2);
        assertThat(run.history().get(1).done()).isZero();
        assertThat(run.total().done()).isEqualTo(2);
    }

    @Test
    void bytesThatAreNoneAreRefusedAndNothingElseHappens() {
        Histogram times = empty();
        times.recordValue(5);
        byte[] good = PortionBytes.of(portion(1, times, 0));
        SplittableRandom random = new SplittableRandom(7);
        for (int i = 0; i < 300; i++) {
            byte[] spoilt = Arrays.copyOf(good, random.nextInt(good.length + 1));
            if (spoilt.length > 0) {
                spoilt[random.nextInt(spoilt.length)] ^= (byte) (1 + random.nextInt(255));
            }
            try {
                assertThat(PortionBytes.read(spoilt)).isNotNull();
            } catch (IOException refused) {
                assertThat(refused).isNotNull();
            }
        }
        assertThatThrownBy(() -> PortionBytes.read(new byte[0])).isInstanceOf(IOException.class);
    }

    @Test
    void aPortionWithoutSamplesIsSmall() {
        assertThat(PortionBytes.of(portion(1, empty(), 0)).length).isLessThan(150);
    }
}
