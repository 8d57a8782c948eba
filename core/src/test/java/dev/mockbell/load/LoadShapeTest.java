package dev.mockbell.load;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import dev.mockbell.load.LoadShape.Kind;
import dev.mockbell.load.LoadShape.Point;
import dev.mockbell.problem.Problem;
import java.util.ArrayList;
import java.util.List;
import java.util.SplittableRandom;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class LoadShapeTest {
    private static LoadShape curve(double... atAndLevel) {
        List<Point> points = new ArrayList<>();
        for (int i = 0; i < atAndLevel.length; i += 2) {
            points.add(new Point(atAndLevel[i], atAndLevel[i + 1]));
        }
        return new LoadShape(Kind.ARRIVALS, points);
    }

    @Test
    void aCurveIsSaidInWords() {
        assertThat(curve(0, 40, 60, 40, 120, 220, 240, 220, 300, 0).title())
                .isEqualTo("40/s for 1 min, to 220/s in 1 min, 220/s for 2 min, to 0/s in 1 min");
        assertThat(curve(0, 5, 10, 5, 10, 80, 12, 80).title()).isEqualTo("5/s for 10 s, at once to 80/s, 80/s for 2 s");
        assertThat(LoadShape.users(1, 30).title()).isEqualTo("1 user for 30 s");
        assertThat(curve(0, 1, 4, 2.5).title()).isEqualTo("from 1 to 2.5/s in 4 s");
    }

    @ParameterizedTest
    @CsvSource({"0, 10", "5, 15", "10, 30", "10.001, 30", "15, 30", "20, 30", "99, 30"})
    void theLevelIsStraightBetweenPointsAndJumpsWhereTwoAreAtOnce(double second, double level) {
        assertThat(curve(0, 10, 10, 20, 10, 30, 20, 30).level(second)).isCloseTo(level, within(1e-9));
    }

    @Test
    void whatIsNoCurveIsRefused() {
        assertThatThrownBy(() -> curve(0, 1)).isInstanceOf(Problem.class).hasMessageContaining("two points");
        assertThatThrownBy(() -> curve(0, 1, 0, 2)).hasMessageContaining("over at once");
        assertThatThrownBy(() -> curve(0, -1, 5, 2)).hasMessageContaining("-1");
        assertThatThrownBy(() -> curve(0, Double.NaN, 5, 2)).isInstanceOf(Problem.class);
    }

    @Test
    void drawnOutItKeepsItsForm() {
        LoadShape twice = curve(0, 4, 3, 8, 6, 4).withSeconds(12);
        assertThat(twice).isEqualTo(curve(0, 4, 6, 8, 12, 4));
        assertThat(new ArrivalTimes(twice).all()).isEqualTo(72);
    }

    @Test
    void arrivalsAtOneRateAreEvenAndExactlyAsMany() {
        ArrivalTimes times = new ArrivalTimes(LoadShape.arrivals(50, 2));
        assertThat(times.due(0)).isZero();
        assertThat(times.due(1)).isCloseTo(0.02, within(1e-12));
        assertThat(times.due(99)).isCloseTo(1.98, within(1e-12));
        assertThat(times.due(100)).isInfinite();
    }

    @Test
    void arrivalsFollowTheAreaUnderAnyCurve() {
        SplittableRandom random = new SplittableRandom(7);
        for (int round = 0; round < 200; round++) {
            double at = 0;
            List<Point> points = new ArrayList<>();
            for (int i = 0; i < 2 + random.nextInt(6); i++) {
                points.add(new Point(at, random.nextInt(4) == 0 ? 0 : random.nextDouble() * 100));
                at += random.nextInt(3) == 0 ? 0 : random.nextDouble() * 20;
            }
            points.add(new Point(at + 1, 10));
            LoadShape shape = new LoadShape(Kind.ARRIVALS, points);
            ArrivalTimes times = new ArrivalTimes(shape);
            double before = -1;
            for (double n = 0; n < times.all() - 1e-6; n += Math.max(1, times.all() / 50)) {
                double due = times.due(n);
                assertThat(due).as(shape.title()).isBetween(Math.max(0, before), shape.seconds());
                assertThat(times.by(due)).isCloseTo(n, within(1e-6 * Math.max(1, n)));
                before = due;
            }
            assertThat(times.due(times.all())).isInfinite();
        }
    }

    @Test
    void pausesAreSpreadAsTheySay() {
        SplittableRandom chance = new SplittableRandom(1);
        assertThat(Pauses.NONE.nanos(chance)).isZero();
        assertThat(Pauses.fixed(20).nanos(chance)).isEqualTo(20_000_000);
        double sum = 0;
        for (int i = 0; i < 20_000; i++) {
            assertThat(Pauses.uniform(100, 300).nanos(chance)).isBetween(100_000_000L, 300_000_000L);
            sum += Pauses.exponential(50).nanos(chance) / 1e6;
        }
        assertThat(sum / 20_000).isCloseTo(50, within(2.0));
        assertThat(Pauses.uniform(1_000, 3_000).title()).isEqualTo("1 s to 3 s, uniform");
        assertThat(Pauses.uniform(300, 100)).isEqualTo(Pauses.uniform(100, 300));
    }

    @Test
    void turnsComeAsOftenAsTheirWeightsInAnyStretch() {
        List<Passage> passages =
                List.of(new Passage(60, List.of()), new Passage(30, List.of()), new Passage(10, List.of()));
        Turns turns = new Turns(passages);
        int[] counts = new int[3];
        for (int i = 1; i <= 1_000; i++) {
            counts[passages.indexOf(turns.next())]++;
            if (i % 10 == 0) {
                assertThat(counts).containsExactly(i * 6 / 10, i * 3 / 10, i / 10);
            }
        }
    }
}
