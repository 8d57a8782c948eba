package dev.mockbell.load;

import com.sun.management.OperatingSystemMXBean;
import java.lang.management.GarbageCollectorMXBean;
import java.lang.management.ManagementFactory;
import java.util.function.IntSupplier;

/** Reads how the process and its machine fare, a second at a time. Used by one thread. */
final class LoadGauges {
    private final IntSupplier connections;
    private final LoadClock clock;
    private long collectorBefore = collector();
    private long lateBefore;

    /** @param connections how many there are */
    LoadGauges(IntSupplier connections, LoadClock clock) {
        this.connections = connections;
        this.clock = clock;
        if (ManagementFactory.getOperatingSystemMXBean() instanceof OperatingSystemMXBean system) {
            // the first figures are those since the process began
            system.getProcessCpuLoad();
            system.getCpuLoad();
        }
    }

    private static long collector() {
        long millis = 0;
        for (GarbageCollectorMXBean bean : ManagementFactory.getGarbageCollectorMXBeans()) {
            // those that work beside the program stop nothing
            millis += bean.getName().contains("Concurrent") ? 0 : Math.max(0, bean.getCollectionTime());
        }
        return millis;
    }

    /** Since the last call. */
    Health read() {
        long collected = collector();
        long late = clock.late();
        double cpu = -1;
        double machine = -1;
        if (ManagementFactory.getOperatingSystemMXBean() instanceof OperatingSystemMXBean system) {
            cpu = system.getProcessCpuLoad();
            machine = system.getCpuLoad();
        }
        Health now = new Health(
                clock.takeLatestMillis(),
                late - lateBefore,
                cpu,
                machine,
                collected - collectorBefore,
                clock.takeLoopDelayMillis(),
                connections.getAsInt());
        collectorBefore = collected;
        lateBefore = late;
        return now;
    }
}
