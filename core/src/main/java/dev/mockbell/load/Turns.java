package dev.mockbell.load;

import java.util.List;

/**
 * Whose turn it is, so that in any stretch each passage comes as often as its weight says: the smoothest order there is, and
 * the same in every run. Used by one thread.
 */
final class Turns {
    private final List<Passage> passages;
    private final double[] due;
    private final double sum;

    Turns(List<Passage> passages) {
        this.passages = passages;
        this.due = new double[passages.size()];
        this.sum = passages.stream().mapToDouble(Passage::weight).sum();
    }

    Passage next() {
        if (due.length == 1) {
            return passages.get(0);
        }
        int best = 0;
        for (int i = 0; i < due.length; i++) {
            due[i] += passages.get(i).weight();
            if (due[i] > due[best]) {
                best = i;
            }
        }
        due[best] -= sum;
        return passages.get(best);
    }
}
