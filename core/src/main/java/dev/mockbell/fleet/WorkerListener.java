package dev.mockbell.fleet;

/** Hears of what a worker does, from one thread after the other; it must not block. */
public interface WorkerListener {
    /**
     * It has joined.
     *
     * @param address by which the coordinator reaches it
     * @param clockError by how much its clock may be off from the coordinator's, in milliseconds
     */
    void ready(String address, int cores, double clockError, String version);

    /** Something happened that people should know, in a sentence. */
    void told(String sentence);
}
