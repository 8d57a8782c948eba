package dev.mockbell.wire.jms;

import dev.mockbell.content.Content;
import dev.mockbell.exchange.JmsMessage;
import dev.mockbell.exchange.Timing;
import dev.mockbell.problem.Problem;
import dev.mockbell.task.StopSignal;
import dev.mockbell.wire.CallResult;
import dev.mockbell.wire.Connect;
import jakarta.jms.Destination;
import jakarta.jms.JMSException;
import jakarta.jms.Message;
import jakarta.jms.MessageProducer;
import jakarta.jms.Session;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.BlockingQueue;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.LinkedBlockingQueue;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicInteger;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/**
 * A way to a queue or topic by which many requests are under way at once. Answers come to a queue of its own, or to the topic that
 * the address names for them, and are told apart by their correlation. Where it names a queue that others take from too, and
 * where each request is to have a connection of its own, each answer is waited for by itself.
 */
public final class JmsLine implements AutoCloseable {
    private static final Logger LOG = LoggerFactory.getLogger(JmsLine.class);

    /** Requests that are given to the broker at once, each by a thread. */
    private static final int MOST_SENDERS = 32;

    /** Requests of which each answer is waited for by a thread. */
    private static final int MOST_WAITERS = 256;

    /** A broker that was not there is not tried for each request. */
    private static final long BETWEEN_TRIES = TimeUnit.SECONDS.toNanos(1);

    /** An answer that comes before its request is known to have gone out, waits no longer than this. */
    private static final long EARLY = TimeUnit.SECONDS.toNanos(5);

    private final JmsAddress address;
    private final Manner manner;
    private final ProviderJars jars;
    private final Connections connections;
    private final boolean alone;
    private final JmsCaller caller;
    private final StopSignal stop = new StopSignal();
    private final BlockingQueue<Job> jobs = new LinkedBlockingQueue<>();
    private final AtomicInteger idle = new AtomicInteger();
    private final List<Thread> senders = new ArrayList<>();
    private final Map<String, Pending> pending = new ConcurrentHashMap<>();
    private final Map<String, Early> early = new ConcurrentHashMap<>();
    private volatile Wire wire;
    private final AtomicInteger conversing = new AtomicInteger();
    private Problem refusal;
    private long refused;
    private volatile boolean closed;
    private volatile boolean uncorrelated;

    /**
     * How requests go.
     *
     * @param by who logs in, and how long to wait for an answer
     * @param most how many connections there may be at a time
     * @param kept whether a connection is used again; else each request has one of its own
     * @param ownAnswer what we answer ourselves: requests then go to a queue that nobody else knows of, by way of the broker;
     *     empty to send them where the address says
     */
    public record Manner(Connect by, int most, boolean kept, Optional<Content> ownAnswer) {}

    /** Who waits for an answer. It hears once, on any thread, and must not block. */
    public interface Hearer {
        void answered(Came came);

        /** @param at by {@link System#nanoTime()} */
        void failed(String reason, long at);
    }

    /**
     * What came of a request; the moments are by {@link System#nanoTime()}.
     *
     * @param answer that the broker has it, where no answer was to come
     * @param taken when its turn to be sent had come
     * @param accepted when the broker had it
     * @param at when the answer came
     */
    public record Came(JmsMessage answer, boolean envelope, long taken, long accepted, long at) {}

    private record Job(JmsMessage request, boolean answered, Hearer hearer, long deadline) {
        boolean isLate(long now) {
            return now - deadline > 0;
        }
    }

    private record Pending(Job job, Wire wire, long taken, long accepted) {}

    private record Early(JmsMessage answer, boolean envelope, long at) {}

    /** An open connection with where requests go and answers come. */
    private record Wire(Connections.Opened opened, Destination to, Destination back) {}

    /** A sender's own part of a connection. */
    private record Own(Wire wire, Session session, MessageProducer producer) {}

    public JmsLine(JmsAddress address, Manner manner, ProviderJars jars) {
        this.address = address;
        this.manner = manner;
        this.jars = jars;
        this.connections = new Connections(jars);
        this.caller = new JmsCaller(jars);
        boolean shared = address.parameter("replyToName").isPresent()
                && address.parameter("topicReplyToName").isEmpty();
        this.alone = manner.ownAnswer().isEmpty() && (shared || !manner.kept());
    }

    /**
     * Connects, and makes ready for so many requests at once. A broker that is not there is found out by the first request.
     *
     * @return false when it is not ready in time
     */
    public boolean openAhead(int count, long millis) {
        CountDownLatch ready = new CountDownLatch(Math.min(count, most()));
        for (long i = ready.getCount(); i > 0; i--) {
            start(ready);
        }
        try {
            return ready.await(millis, TimeUnit.MILLISECONDS);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            return false;
        }
    }

    private int most() {
        return Math.max(1, Math.min(manner.most(), alone ? MOST_WAITERS : MOST_SENDERS));
    }

    private void start(CountDownLatch ready) {
        synchronized (senders) {
            if (closed || senders.size() >= most()) {
                ready.countDown();
                return;
            }
            Thread sender = new Thread(new Sender(ready), "queue-sender");
            sender.setDaemon(true);
            senders.add(sender);
            sender.start();
        }
    }

    /**
     * Sends a request as soon as a sender is free.
     *
     * @param answered whether an answer is to come
     */
    public void send(JmsMessage request, boolean answered, Hearer hearer) {
        long within = manner.by().timeouts().answer().toNanos();
        jobs.add(new Job(request, answered, hearer, System.nanoTime() + within));
        if (jobs.size() > idle.get()) {
            start(new CountDownLatch(1));
        }
    }

    /** How many connections to the broker there are. */
    public int connections() {
        return alone ? (manner.kept() ? Math.min(1, conversing.get()) : conversing.get()) : wire == null ? 0 : 1;
    }

    /** Ends requests that took too long; to be called every so often. */
    public void sweep() {
        long now = System.nanoTime();
        for (Map.Entry<String, Pending> each : pending.entrySet()) {
            Pending late = each.getValue();
            if (late.job().isLate(now) && pending.remove(each.getKey(), late)) {
                String why = "no answer in " + manner.by().timeouts().answer().toMillis() + " ms";
                late.job()
                        .hearer()
                        .failed(uncorrelated ? why + "; some came whose JMSCorrelationID is of no request" : why, now);
            }
        }
        if (early.values().removeIf(e -> now - e.at() > EARLY)) {
            uncorrelated = true;
        }
        for (Job next = jobs.peek(); next != null && next.isLate(now); next = jobs.peek()) {
            if (jobs.remove(next)) {
                next.hearer().failed("no free connection in time", now);
            }
        }
    }

    /** Gives requests to the broker, one after the other. */
    private final class Sender implements Runnable {
        private final CountDownLatch ready;
        private Own own;

        Sender(CountDownLatch ready) {
            this.ready = ready;
        }

        @Override
        public void run() {
            if (!alone) {
                try {
                    own = own();
                } catch (JMSException | RuntimeException notYet) {
                    LOG.debug("{} is not there yet", address.title(), notYet);
                }
            }
            ready.countDown();
            while (!closed) {
                Job job = next();
                if (job != null) {
                    carry(job);
                }
            }
        }

        private Job next() {
            idle.incrementAndGet();
            try {
                return jobs.take();
            } catch (InterruptedException over) {
                return null;
            } finally {
                idle.decrementAndGet();
            }
        }

        private void carry(Job job) {
            long taken = System.nanoTime();
            if (job.isLate(taken)) {
                job.hearer().failed("no free connection in time", taken);
                return;
            }
            try {
                if (alone) {
                    converse(job, taken);
                } else {
                    give(job, taken);
                }
            } catch (JMSException e) {
                if (own != null) {
                    broke(own.wire(), Brokers.lost(e, address.title()).what());
                }
                job.hearer().failed(Brokers.lost(e, address.title()).what(), System.nanoTime());
            } catch (RuntimeException e) {
                job.hearer().failed(e instanceof Problem p ? p.what() : Problem.reason(e), System.nanoTime());
            }
        }

        private void give(Job job, long taken) throws JMSException {
            own = own();
            Message message = Envelopes.request(own.session(), job.request(), address.goesAsText());
            if (job.answered()) {
                message.setJMSReplyTo(own.wire().back());
            }
            own.producer().send(message);
            long accepted = System.nanoTime();
            if (!job.answered()) {
                job.hearer().answered(new Came(JmsCaller.accepted(), true, taken, accepted, accepted));
                return;
            }
            expect(message.getJMSMessageID(), new Pending(job, own.wire(), taken, accepted));
        }

        /** What this thread sends by; JMS has a session used by one thread alone. */
        private Own own() throws JMSException {
            Wire present = wire();
            if (own != null && own.wire() == present) {
                return own;
            }
            Session session = present.opened().connection().createSession(false, Session.AUTO_ACKNOWLEDGE);
            MessageProducer producer = session.createProducer(present.to());
            Envelopes.settle(producer, address);
            return new Own(present, session, producer);
        }
    }

    private void converse(Job job, long taken) {
        JmsCaller by = manner.kept() ? caller : new JmsCaller(jars);
        conversing.incrementAndGet();
        try {
            CallResult result = by.call(job.request(), address, job.answered(), manner.by(), stop);
            Timing timing = result.timing();
            long accepted = taken + timing.connect() + timing.send();
            if (result.failure().isPresent()) {
                job.hearer().failed(result.failure().get(), System.nanoTime());
            } else {
                job.hearer()
                        .answered(new Came(
                                (JmsMessage) result.response().orElseThrow(),
                                true,
                                taken,
                                accepted,
                                accepted + timing.await()));
            }
        } finally {
            conversing.decrementAndGet();
            if (by != caller) {
                by.close();
            }
        }
    }

    /** The answer may be here already, and then whoever comes second gives it on. */
    private void expect(String id, Pending expected) {
        pending.put(id, expected);
        Early there = early.remove(id);
        if (there != null && pending.remove(id, expected)) {
            give(there, expected);
        }
    }

    private void came(Message message) {
        long at = System.nanoTime();
        try {
            String id = message.getJMSCorrelationID();
            if (id == null) {
                uncorrelated = true;
                return;
            }
            Early here =
                    new Early(Envelopes.read(message, "FROM a queue of its own"), Envelopes.holdsEnvelope(message), at);
            early.put(id, here);
            Pending expected = pending.remove(id);
            if (expected != null) {
                early.remove(id);
                give(here, expected);
            }
        } catch (JMSException e) {
            LOG.warn("an answer from {} cannot be read", address.title(), e);
        }
    }

    private static void give(Early answer, Pending expected) {
        expected.job()
                .hearer()
                .answered(new Came(
                        answer.answer(), answer.envelope(), expected.taken(), expected.accepted(), answer.at()));
    }

    /** The connection that is open, or is opened now. */
    private synchronized Wire wire() {
        if (closed) {
            throw Problem.stopped();
        }
        if (wire != null) {
            return wire;
        }
        if (refusal != null && System.nanoTime() - refused < BETWEEN_TRIES) {
            throw refusal;
        }
        try {
            Wire made = open();
            if (closed) {
                made.opened().close();
                throw Problem.stopped();
            }
            wire = made;
            refusal = null;
            return made;
        } catch (Problem problem) {
            refusal = problem;
            refused = System.nanoTime();
            throw problem;
        }
    }

    private Wire open() {
        Connections.Opened opened = connections.open(address, manner.by());
        try {
            Session session = opened.connection().createSession(false, Session.DUPS_OK_ACKNOWLEDGE);
            Optional<String> topic = address.parameter("topicReplyToName");
            Destination to = manner.ownAnswer().isPresent()
                    ? session.createTemporaryQueue()
                    : opened.destination(session, address.variant(), address.destination());
            Destination back = topic.isPresent() && manner.ownAnswer().isEmpty()
                    ? opened.destination(session, JmsAddress.Variant.TOPIC, topic.get())
                    : session.createTemporaryQueue();
            Wire made = new Wire(opened, to, back);
            opened.connection()
                    .setExceptionListener(
                            e -> broke(made, Brokers.lost(e, address.title()).what()));
            session.createConsumer(back).setMessageListener(this::came);
            if (manner.ownAnswer().isPresent()) {
                answerOurselves(made, manner.ownAnswer().get());
            }
            return made;
        } catch (JMSException e) {
            opened.close();
            throw Brokers.lost(e, address.title());
        } catch (RuntimeException e) {
            opened.close();
            throw e;
        }
    }

    private static void answerOurselves(Wire made, Content answer) throws JMSException {
        Session session = made.opened().connection().createSession(false, Session.DUPS_OK_ACKNOWLEDGE);
        MessageProducer producer = session.createProducer(null);
        session.createConsumer(made.to()).setMessageListener(request -> {
            try {
                Message reply = Envelopes.made(session, answer, "text/xml; charset=utf-8", false);
                reply.setJMSCorrelationID(Brokers.id(request));
                if (request.getJMSReplyTo() != null) {
                    producer.send(request.getJMSReplyTo(), reply);
                }
            } catch (JMSException e) {
                LOG.debug("a trial's answer was not sent", e);
            }
        });
    }

    /** What was under way on a connection is lost with it. */
    private void broke(Wire broken, String why) {
        synchronized (this) {
            if (closed || wire != broken) {
                return;
            }
            wire = null;
        }
        // a provider's own thread may be what tells it, which must not close what it is of
        Thread closing = new Thread(broken.opened()::close, "queue-closing");
        closing.setDaemon(true);
        closing.start();
        long now = System.nanoTime();
        for (Map.Entry<String, Pending> each : pending.entrySet()) {
            Pending lost = each.getValue();
            if (lost.wire() == broken && pending.remove(each.getKey(), lost)) {
                lost.job().hearer().failed(why, now);
            }
        }
    }

    /** What is under way is given up. It may take as long as a connection that is just being made. */
    @Override
    public void close() {
        closed = true;
        stop.stop();
        synchronized (senders) {
            senders.forEach(Thread::interrupt);
        }
        jobs.clear();
        pending.clear();
        early.clear();
        caller.close();
        Wire last;
        synchronized (this) {
            last = wire;
            wire = null;
        }
        if (last != null) {
            last.opened().close();
        }
    }
}
