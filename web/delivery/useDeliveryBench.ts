import { ref, type Ref } from 'vue';
import { useNewDelivery } from './useNewDelivery.ts';

/** A delivery is changed or made without leaving the batch. */
export function useDeliveryBench(deliveryId: Ref<number | null>) {
  const isShaping = ref(false);
  const newDelivery = useNewDelivery();

  async function addDelivery(): Promise<void> {
    const added = await newDelivery();
    if (!added) return;
    deliveryId.value = added.id;
    isShaping.value = true;
  }

  return { isShaping, addDelivery };
}
