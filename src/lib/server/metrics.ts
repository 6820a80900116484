import { collectDefaultMetrics, Counter, Gauge, Histogram, Registry } from 'prom-client';

/** What is counted here, in the open text format of metrics. */
export const metrics = new Registry();
collectDefaultMetrics({ register: metrics });

export const requestSeconds = new Histogram({
	name: 'zygaster_request_seconds',
	help: 'Time from a request to its answer, by route',
	labelNames: ['method', 'route', 'status'],
	buckets: [0.01, 0.03, 0.1, 0.3, 1, 3, 10],
	registers: [metrics]
});

export const saves = new Counter({ name: 'zygaster_saves_total', help: 'Edits that were saved', registers: [metrics] });

export const orders = new Gauge({
	name: 'zygaster_orders',
	help: 'Orders for files, by state',
	labelNames: ['state'],
	registers: [metrics]
});

export const orderWait = new Gauge({
	name: 'zygaster_order_wait_seconds',
	help: 'How long the oldest order has waited',
	registers: [metrics]
});
