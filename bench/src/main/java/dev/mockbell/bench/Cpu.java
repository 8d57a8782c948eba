package dev.mockbell.bench;

import com.sun.management.OperatingSystemMXBean;
import java.lang.management.ManagementFactory;

/** CPU time of this process. */
final class Cpu {
    private Cpu() {}

    static double seconds() {
        return ((OperatingSystemMXBean) ManagementFactory.getOperatingSystemMXBean()).getProcessCpuTime() / 1e9;
    }
}
