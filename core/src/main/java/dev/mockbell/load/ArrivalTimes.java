package dev.mockbell.load;

import dev.mockbell.load.LoadShape.Point;
import java.util.List;

/**
 * When each arrival of a curve is due: the n-th, from 0, when n have come by the area under the curve. The area is worked out
 * piece by piece, so that no error adds up however long it lasts. Immutable.
 */
final class ArrivalTimes {
    private final double[] at;
    private final double[] level;
    /** How many have come by each point. */
    private final double[] sum;

    ArrivalTimes(LoadShape shape) {
        List<Point> points = shape.points();
        boolean late = points.get(0).at() > 0;
        int extra = late ? 1 : 0;
        at = new double[points.size() + extra];
        level = new double[at.length];
        sum = new double[at.length];
        if (late) {
            level[0] = points.get(0).level();
        }
        for (int i = 0; i < points.size(); i++) {
            at[i + extra] = points.get(i).at();
            level[i + extra] = points.get(i).level();
        }
        for (int i = 1; i < at.length; i++) {
            sum[i] = sum[i - 1] + (at[i] - at[i - 1]) * (level[i] + level[i - 1]) / 2;
        }
    }

    /** How many come in all. */
    double all() {
        return sum[sum.length - 1];
    }

    /** How many have come by a time. */
    double by(double seconds) {
        if (seconds <= 0) {
            return 0;
        }
        for (int i = 1; i < at.length; i++) {
            if (seconds < at[i]) {
                double x = seconds - at[i - 1];
                double slope = (level[i] - level[i - 1]) / (at[i] - at[i - 1]);
                return sum[i - 1] + x * (level[i - 1] + slope * x / 2);
            }
        }
        return all();
    }

    /** The second at which so many have come; infinite when fewer come. */
    double due(double arrivals) {
        for (int i = 1; i < at.length; i++) {
            if (arrivals < sum[i] || arrivals == sum[i] && arrivals == 0 && level[i - 1] > 0) {
                double left = arrivals - sum[i - 1];
                double slope = (level[i] - level[i - 1]) / (at[i] - at[i - 1]);
                // the larger root of slope/2 x² + level x = left, in the form that stays exact for small slopes
                double root = level[i - 1] + Math.sqrt(Math.max(0, level[i - 1] * level[i - 1] + 2 * slope * left));
                return at[i - 1] + (left == 0 ? 0 : 2 * left / root);
            }
        }
        return Double.POSITIVE_INFINITY;
    }
}
