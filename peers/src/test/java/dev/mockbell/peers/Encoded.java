package dev.mockbell.peers;

/** What is served rpc/encoded: values, a bean, arrays of both. Its stack wants getters and setters. */
public class Encoded {
    /** A hut. */
    public static class Hut {
        private String id;
        private int bunks;
        private double[] place;

        public String getId() {
            return id;
        }

        public void setId(String id) {
            this.id = id;
        }

        public int getBunks() {
            return bunks;
        }

        public void setBunks(int bunks) {
            this.bunks = bunks;
        }

        public double[] getPlace() {
            return place;
        }

        public void setPlace(double[] place) {
            this.place = place;
        }
    }

    public double toFeet(double metres) {
        return metres / 0.3048;
    }

    public int sum(int[] numbers) {
        int all = 0;
        for (int n : numbers) {
            all += n;
        }
        return all;
    }

    public Hut enlarge(Hut hut, int by) {
        hut.setBunks(hut.getBunks() + by);
        return hut;
    }

    public Hut[] twice(Hut[] huts) {
        Hut[] all = new Hut[huts.length * 2];
        System.arraycopy(huts, 0, all, 0, huts.length);
        System.arraycopy(huts, 0, all, huts.length, huts.length);
        return all;
    }

    public String greet(String name) {
        if (name == null) {
            throw new IllegalArgumentException("a name is needed");
        }
        // its stack reads this class file, and none with what newer compilers make of a plus
        return "Hello ".concat(name);
    }

    public void ping() {
        // answers with nothing
    }
}
